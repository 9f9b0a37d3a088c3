using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Pages.Jobs;

// Topics in the combined view: marks of open ones, and what is asked or answered there.
public sealed partial class CombineModel
{
    /// <summary>Words, parties and people of topics; null where the reader may not ask.</summary>
    public TopicBoard? Board { get; private set; }

    /// <summary>The topic that is answered with a picture; null for a new one.</summary>
    public TopicPage? Topic { get; private set; }

    /// <summary>Whether the reader may ask or answer here.</summary>
    public bool Asks => Board is not null;

    // Open topics that look at a point, as marks.
    private async Task<IEnumerable<object>> TopicsAsync()
    {
        var (open, _) = await topics.ListAsync(
            Job.Id,
            Permissions,
            new TopicFilter(),
            TopicQuery.Most,
            HttpContext.RequestAborted
        );
        return open.Where(t => t.Place is not null)
            .Select(t => new
            {
                number = t.Number,
                title = t.Title,
                at = t.Place,
                late = DisplayText.IsLate(t.Due),
                address = $"/jobs/{Job.Code}/topics/{t.Number}",
            });
    }
}
