using System.CommandLine;
using System.Globalization;
using System.Text.Json.Nodes;
using SteadyLintel.Exchange;
using SteadyLintel.Files;

namespace SteadyLintel.Cli;

/// <summary><c>lintel members FILE [--json]</c>: beams, columns and braces, their axes and how their bodies lie about them.</summary>
internal static class MembersCommand
{
    public static Command Create()
    {
        var file = new Argument<string>("FILE") { Description = "A model: .ifc or .ifczip." };
        var json = new Option<bool>("--json") { Description = "Machine output." };
        var command = new Command(
            "members",
            "Lists beams, columns and braces: where the axis is in the body, and how high it reaches."
        )
        {
            file,
            json,
        };
        command.SetAction(parsed =>
            Output.Guard(() =>
            {
                using var delivered = DeliveredFile.Open(parsed.GetValue(file)!);
                var snapshot = ModelSnapshot.Open(delivered.Bytes);
                var members = MemberReader.ReadAll(snapshot);
                if (parsed.GetValue(json))
                    Output.WritePage(new JsonArray([.. members.Select(m => Machine(m, snapshot))]));
                else
                    Human(members, snapshot);
                return ExitCodes.Done;
            })
        );
        return command;
    }

    // The document that is kept, with the storey's name instead of its number.
    private static JsonObject Machine(Member member, ModelSnapshot snapshot)
    {
        var all = Output.Object(member);
        all["storey"] = snapshot.StoreyName(member.Storey);
        return all;
    }

    private static void Human(IReadOnlyList<Member> members, ModelSnapshot snapshot)
    {
        foreach (var storey in members.GroupBy(m => m.Storey).OrderByDescending(g => g.Key))
        {
            Console.Out.WriteLine(storey.Key < 0 ? "no storey" : snapshot.StoreyName(storey.Key));
            foreach (var m in storey)
                Console.Out.WriteLine(
                    $"  {m.Class[3..], -8} {m.Name, -16} {m.Section, -16} {N(m.Length), 8} m  axis {m.AxisAt}, top {N(m.TopAtEnds.Least)} … {N(m.TopAtEnds.Most)}, bottom {N(m.Bottom)}{(m.IsOneSided ? ", one-sided" : "")}"
                );
        }

        Console.Out.WriteLine($"{members.Count} members");
    }

    private static string N(double metres) => metres.ToString("0.000", CultureInfo.InvariantCulture);
}
