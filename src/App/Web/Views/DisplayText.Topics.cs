using System.Globalization;
using Microsoft.AspNetCore.Html;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

// Topics in words.
public static partial class DisplayText
{
    /// <summary>When an answer is due, as people say it: <c>due yesterday</c>, <c>due Friday</c>, <c>due 4 Dec</c>.</summary>
    public static string Due(DateOnly due)
    {
        var today = DateOnly.FromDateTime(ReaderZone.Local(DateTime.UtcNow));
        return "due "
            + (due.DayNumber - today.DayNumber) switch
            {
                -1 => "yesterday",
                0 => "today",
                1 => "tomorrow",
                > 1 and < 7 => due.ToString("dddd", CultureInfo.InvariantCulture),
                _ => due.ToString(due.Year == today.Year ? "d MMM" : "d MMM yyyy", CultureInfo.InvariantCulture),
            };
    }

    /// <summary>Whether an answer is late.</summary>
    public static bool IsLate(DateOnly? due) => due < DateOnly.FromDateTime(ReaderZone.Local(DateTime.UtcNow));

    /// <summary>Who is meant by a word of a topic: the party's plate and the person's name.</summary>
    public static IHtmlContent Person(TopicBoard board, string? word)
    {
        if (string.IsNullOrEmpty(word))
            return new HtmlString("Coordinators");
        var person = board.PersonOf(word);
        string name = System.Net.WebUtility.HtmlEncode(person.Name);
        if (board.PartyOf(person.Party) is not { } party)
            return new HtmlString(name);
        string plate = $"<b class=\"plate party-{Colour(party)}\">{System.Net.WebUtility.HtmlEncode(party.Code)}</b>";
        return new HtmlString(person.Name == party.Code ? plate : $"{plate} {name}");
    }

    /// <summary>Who is meant by a word of a topic, as plain text.</summary>
    public static string PersonName(TopicBoard board, string? word) =>
        string.IsNullOrEmpty(word) ? "coordinators" : board.PersonOf(word).Name;

    /// <summary>What happened to a topic, in words; null for what the thread shows anyway.</summary>
    public static string? Happened(TopicEvent e, TopicBoard board) =>
        e.Did switch
        {
            TopicAction.Status => $"set the status to {e.Value}",
            TopicAction.Assigned => $"handed it to {PersonName(board, e.Value)}",
            TopicAction.Due => e.Value.Length >= 10 ? $"set the due date to {e.Value[..10]}" : "removed the due date",
            TopicAction.Title => $"changed the title to “{e.Value}”",
            TopicAction.Description => "changed the description",
            TopicAction.Type => $"changed the type to {e.Value}",
            TopicAction.Priority => $"changed the priority to {e.Value}",
            TopicAction.Stage => $"changed the stage to {e.Value}",
            TopicAction.LabelAdded => $"added the label {e.Value}",
            TopicAction.LabelRemoved => $"removed the label {e.Value}",
            TopicAction.CommentDeleted => $"withdrew a comment: “{e.Value}”",
            TopicAction.CommentText => $"edited a comment; it was “{e.Value}”",
            TopicAction.Document => $"attached {e.Value}",
            TopicAction.Imported => $"imported {e.Value}",
            TopicAction.Received => $"Came from {e.Value}.",
            TopicAction.CauseGone => $"What it was about is gone: {e.Value}.",
            TopicAction.CauseBack => $"What it was about is back: {e.Value}.",
            _ => null,
        };
}
