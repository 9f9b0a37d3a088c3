using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>Figures of the job's topics: by week and by party.</summary>
public sealed class TopicFiguresModel(JobAccess access, TopicQuery query) : JobPage(access)
{
    /// <summary>The figures.</summary>
    public TopicFigures Figures { get; private set; } = null!;

    /// <summary>Counts them.</summary>
    public async Task OnGetAsync() => Figures = await query.FiguresAsync(Job.Id, HttpContext.RequestAborted);
}
