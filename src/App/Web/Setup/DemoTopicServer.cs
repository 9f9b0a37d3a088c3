using System.Text.Json.Nodes;
using SteadyLintel.StandIn;

namespace SteadyLintel.Web;

/// <summary>The stand-in server of topics with what the ferry's own engineers ask, all invented.</summary>
internal static class DemoTopicServer
{
    private const string Mara = "mara@ferry.example",
        Olek = "olek@ferry.example";

    public static TopicStandIn Make()
    {
        var server = new TopicStandIn();
        var project = new StandInProject("ferry-2026", "Ferry linkspan and terminal");
        server.Projects.Add(project);
        Ask(
            project,
            Mara,
            "Shore power cabinet in the way of the queue",
            "Question",
            "The cabinet of the ferry is where the concourse doors open. Can the doors move one bay?",
            [(Olek, "One bay towards grid C would do for us.")]
        );
        Ask(
            project,
            Olek,
            "Which level is the linkspan hinge?",
            "Question",
            "We have the hinge at +2.350 above chart datum. What is that above the quay?",
            []
        );
        Ask(
            project,
            Mara,
            "Ticket machines need a duct of 110 mm",
            "Request",
            "From the switch room to the concourse, below the slab.",
            [(Mara, "Two of them, if the slab is not poured yet.")]
        );
        return server;
    }

    private static void Ask(
        StandInProject project,
        string by,
        string title,
        string type,
        string text,
        IEnumerable<(string By, string Text)> answers
    )
    {
        var topic = project.Ask(
            new JsonObject
            {
                ["title"] = title,
                ["topic_type"] = type,
                ["topic_status"] = "Open",
                ["priority"] = "Normal",
                ["description"] = text,
            },
            by
        )!;
        foreach (var (author, answer) in answers)
            project.Comment(topic, new JsonObject { ["comment"] = answer }, author);
    }
}
