using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Step;

namespace SteadyLintel.Cli;

/// <summary>Machine output and errors, the same for every command.</summary>
internal static class Output
{
    private static readonly JsonSerializerOptions OneLine = new(JsonSerializerDefaults.Web)
    {
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };
    private static readonly JsonSerializerOptions Page = new(OneLine) { WriteIndented = true };

    /// <summary>An answer to which more can be added.</summary>
    public static JsonObject Object(object value) => JsonSerializer.SerializeToNode(value, Page)!.AsObject();

    /// <summary>A line of a ledger.</summary>
    public static object Line(LedgerLine l) =>
        new
        {
            l.Kind,
            l.Things,
            l.Same,
            l.Changed,
            l.LeftOut,
            l.NotCarried,
            l.Unaccounted,
            Examples = l.Examples.Select(e => new
            {
                Account = JsonNamingPolicy.CamelCase.ConvertName(e.Account.ToString()),
                e.Rule,
                e.Thing,
            }),
        };

    public static void WritePage(object value) => Console.Out.WriteLine(JsonSerializer.Serialize(value, Page));

    public static void WriteLine(object value) => Console.Out.WriteLine(JsonSerializer.Serialize(value, OneLine));

    /// <summary>Runs a command; what strangers' files may cause becomes one sentence and an exit code.</summary>
    public static int Guard(Func<int> run)
    {
        try
        {
            return run();
        }
        catch (Exception e)
            when (e
                    is DeliveryException
                        or StepFormatException
                        or CadFormatException
                        or IOException
                        or UnauthorizedAccessException
            )
        {
            Console.Error.WriteLine(e.Message);
            return ExitCodes.Unreadable;
        }
        catch (OrderException e)
        {
            Console.Error.WriteLine(e.Message);
            return ExitCodes.WrongArguments;
        }
    }

    /// <summary>A point as three numbers, rounded to a hundredth of a micrometre.</summary>
    public static double[] Numbers(Vec3 p) => [Math.Round(p.X, 8), Math.Round(p.Y, 8), Math.Round(p.Z, 8)];
}
