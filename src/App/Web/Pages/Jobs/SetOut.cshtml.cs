using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>Where each source is: what it declares, what it looks like, and whether it is set out.</summary>
public sealed class SetOutModel(JobAccess access, SettingOutQuery settings) : JobPage(access)
{
    /// <summary>The job as it is.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>What each source of a model declares; by the source's identity.</summary>
    public IReadOnlyDictionary<Guid, FrameFacts> Facts { get; private set; } = new Dictionary<Guid, FrameFacts>();

    /// <summary>The sources with a model.</summary>
    public IReadOnlyList<SourceState> Models => [.. State.Sources.Where(s => s.Latest is not null)];

    /// <summary>The sources whose newest model's frame jumped, and that nobody has set out since.</summary>
    public IReadOnlySet<Guid> Jumped { get; private set; } = new HashSet<Guid>();

    /// <summary>Shows the page.</summary>
    public async Task OnGetAsync()
    {
        State = await StateAsync();
        Jumped = await settings.JumpedAsync(Job.Id, HttpContext.RequestAborted);
        Facts = await settings.FactsAsync(State, HttpContext.RequestAborted);
    }
}
