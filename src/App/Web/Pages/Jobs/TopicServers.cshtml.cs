using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>Other servers that the job shares its topics with.</summary>
public sealed class TopicServersModel(JobAccess access, TopicServers servers, SiteAddress site) : JobPage(access)
{
    /// <summary>The servers.</summary>
    public IReadOnlyList<ShownServer> Servers { get; private set; } = [];

    /// <summary>The job as it is.</summary>
    public JobState State { get; private set; } = null!;

    /// <summary>The server whose projects are shown to choose from.</summary>
    [BindProperty(SupportsGet = true)]
    public Guid? Choose { get; set; }

    /// <summary>Those projects; null where they are not asked for or could not be had.</summary>
    public IReadOnlyList<(string Id, string Name)>? Projects { get; private set; }

    /// <summary>What was typed about a new server.</summary>
    public ServerWish Wish { get; private set; } = new(null, null, null, null, null);

    /// <summary>Where people come back to from a sign-in.</summary>
    public string Back => site.Value + TopicServerBackModel.Path;

    /// <summary>Whether the reader may add, sign in and remove.</summary>
    public bool Manages => Permissions.MayManageTopics;

    /// <summary>Shows them.</summary>
    public Task OnGetAsync() => LoadAsync();

    /// <summary>The list alone, while an exchange is under way.</summary>
    public async Task<IActionResult> OnGetListAsync()
    {
        await LoadAsync();
        return Partial("_TopicServers", this);
    }

    /// <summary>Adds a server.</summary>
    public async Task<IActionResult> OnPostAddAsync(
        string? name,
        string? address,
        string? signIn,
        string? clientId,
        string? secret
    )
    {
        Wish = new ServerWish(name, address, signIn, clientId, null);
        TopicServer? added = null;
        var done = await TryAsync(
            async () =>
                added = await servers.AddAsync(
                    Job.Id,
                    Permissions,
                    Wish with
                    {
                        Secret = secret,
                    },
                    Actor,
                    HttpContext.RequestAborted
                ),
            "",
            LoadAsync
        );
        if (added is null)
            return done;
        return added.SignIn == "person"
            ? Redirect($"{Request.Path}?handler=SignIn&id={added.Id}")
            : Redirect($"{Request.Path}?choose={added.Id}");
    }

    /// <summary>Sends a person to the server's own sign-in.</summary>
    public async Task<IActionResult> OnGetSignInAsync(Guid id)
    {
        try
        {
            return Redirect(
                await servers.SignInAddressAsync(
                    Job.Id,
                    Permissions,
                    id,
                    Caller.Id(User),
                    Back,
                    HttpContext.RequestAborted
                )
            );
        }
        catch (RefusedException e)
        {
            return StatusCode(Status(e.Kind));
        }
    }

    /// <summary>Chooses the project and what is shared.</summary>
    public Task<IActionResult> OnPostChooseAsync(Guid id, string? project, string? frame, bool own)
    {
        Choose = id;
        return TryAsync(
            () => servers.ChooseAsync(Job.Id, Permissions, id, project, frame, own, Actor, HttpContext.RequestAborted),
            "The first exchange begins.",
            LoadAsync
        );
    }

    /// <summary>Exchanges now.</summary>
    public Task<IActionResult> OnPostNowAsync(Guid id, bool all) =>
        TryAsync(() => servers.NowAsync(Job.Id, Permissions, id, all, HttpContext.RequestAborted), "", LoadAsync);

    /// <summary>Decides a value that both sides changed.</summary>
    public Task<IActionResult> OnPostDecideAsync(Guid id, string guid, string what, bool theirs) =>
        TryAsync(
            () => servers.DecideAsync(Job.Id, Permissions, id, guid, what, theirs, Actor, HttpContext.RequestAborted),
            "Decided. The topic is exchanged as soon as everything about it is decided.",
            LoadAsync
        );

    /// <summary>Shares no more.</summary>
    public Task<IActionResult> OnPostRemoveAsync(Guid id) =>
        TryAsync(
            () => servers.RemoveAsync(Job.Id, Permissions, id, Actor, HttpContext.RequestAborted),
            "The server is removed; the topics are still on both sides.",
            LoadAsync
        );

    private async Task LoadAsync()
    {
        State = await StateAsync();
        Servers = await servers.ListAsync(Job.Id, HttpContext.RequestAborted);
        if (Choose is not { } id || !Manages || Servers.All(s => s.Server.Id != id))
            return;
        try
        {
            Projects = await servers.ProjectsAsync(Job.Id, Permissions, id, HttpContext.RequestAborted);
        }
        catch (RefusedException e)
        {
            Problem ??= e.Message;
        }
    }
}
