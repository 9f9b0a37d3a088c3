using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages;

/// <summary>Takes an invitation up: with the account that is signed in, or with a new one.</summary>
[EnableRateLimiting(Security.SignInLimit)]
public sealed class InvitationModel(
    Memberships members,
    UserManager<AppUser> users,
    AccountMaker maker,
    LintelSignIn signIn
) : PageModel
{
    /// <summary>The invitation; null when the link is good no more.</summary>
    public Invitation? Invitation { get; private set; }

    /// <summary>Whether the address it was sent to has an account.</summary>
    public bool HasAccount { get; private set; }

    /// <summary>Whether that account is signed in.</summary>
    public bool IsHere { get; private set; }

    /// <summary>What is wrong.</summary>
    public string? Problem { get; private set; }

    /// <summary>Shows what one is invited to.</summary>
    public async Task OnGetAsync(string secret) => await LoadAsync(secret);

    /// <summary>Takes it up.</summary>
    public async Task<IActionResult> OnPostAsync(string secret, string? name, string? password)
    {
        await LoadAsync(secret);
        if (Invitation is null)
            return Page();
        try
        {
            var user = await users.FindByEmailAsync(Invitation.Email);
            if (user is not null && !IsHere)
                throw new RefusedException(RefusalKind.Forbidden, $"Sign in as {Invitation.Email} first.");
            bool made = user is null;
            user ??= await maker.MakeAsync(Invitation.Email, name, password, false);
            await members.AcceptAsync(Invitation.Id, user.Id, Caller.Address(HttpContext), HttpContext.RequestAborted);
            if (made)
                await signIn.SignInAsync(user, false);
            return LocalRedirect($"/jobs/{Invitation.Job.Code}");
        }
        catch (RefusedException e)
        {
            Problem = e.Message;
            return Page();
        }
    }

    private async Task LoadAsync(string secret)
    {
        Invitation = await members.FindAsync(secret, HttpContext.RequestAborted);
        if (Invitation is null)
            return;
        var user = await users.FindByEmailAsync(Invitation.Email);
        (HasAccount, IsHere) = (user is not null, user is not null && Caller.Id(User) == user.Id);
    }
}
