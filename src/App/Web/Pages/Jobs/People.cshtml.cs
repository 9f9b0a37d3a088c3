using Microsoft.AspNetCore.Mvc;
using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Jobs;

/// <summary>Who belongs to a job, and who is invited.</summary>
public sealed class PeopleModel(JobAccess access, Memberships members, PeopleQuery query, SiteAddress site)
    : JobPage(access)
{
    /// <summary>The members with their names.</summary>
    public IReadOnlyList<JobPerson> People { get; private set; } = [];

    /// <summary>The open invitations.</summary>
    public IReadOnlyList<Invitation> Invitations { get; private set; } = [];

    /// <summary>The link of the invitation just made, to be given by hand where mail does not go.</summary>
    [TempData]
    public string? Link { get; set; }

    /// <inheritdoc/>
    protected override bool IsForCoordinators => true;

    /// <summary>Lists the people.</summary>
    public Task OnGetAsync() => LoadAsync();

    /// <summary>Invites somebody.</summary>
    public Task<IActionResult> OnPostInviteAsync(string? email, MemberRole role, Guid? party) =>
        TryAsync(
            async () =>
                Link = await members.InviteAsync(
                    Job,
                    email,
                    role,
                    party,
                    site.Value,
                    Actor,
                    HttpContext.RequestAborted
                ),
            $"The invitation to {email?.Trim()} is on its way.",
            LoadAsync
        );

    /// <summary>Withdraws an invitation.</summary>
    public Task<IActionResult> OnPostWithdrawAsync(Guid id) =>
        TryAsync(
            () => members.WithdrawAsync(Job.Id, id, Actor, HttpContext.RequestAborted),
            "The invitation is withdrawn; its link no longer works.",
            LoadAsync
        );

    /// <summary>Changes a member's part.</summary>
    public Task<IActionResult> OnPostChangeAsync(Guid user, MemberRole role, Guid? party) =>
        TryAsync(
            () => members.ChangeAsync(Job.Id, user, role, party, Actor, HttpContext.RequestAborted),
            "The part is changed.",
            LoadAsync,
            user == Caller.Id(User) && role != MemberRole.Coordinator ? $"/jobs/{Job.Code}" : null
        );

    /// <summary>Lets a member go.</summary>
    public Task<IActionResult> OnPostRemoveAsync(Guid user) =>
        TryAsync(
            () => members.RemoveAsync(Job.Id, user, Actor, HttpContext.RequestAborted),
            "The person does not belong to the job any more.",
            LoadAsync,
            user == Caller.Id(User) ? "/" : null
        );

    private async Task LoadAsync()
    {
        People = await query.MembersAsync(Job.Id, HttpContext.RequestAborted);
        Invitations = await query.InvitationsAsync(Job.Id, HttpContext.RequestAborted);
    }
}
