using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages;

/// <summary>A new password by e-mail: first the address, then the link in the mail. Nobody learns here who has an account.</summary>
[EnableRateLimiting(Security.SignInLimit)]
public sealed class ForgotModel(
    UserManager<AppUser> users,
    Accounts accounts,
    SignInSessions sessions,
    SiteAddress site
) : PageModel
{
    private static readonly TimeSpan Takes = TimeSpan.FromMilliseconds(600);

    /// <summary>Whether a link was sent, if there is such an account.</summary>
    public bool Sent { get; private set; }

    /// <summary>The account and token of the link that was followed.</summary>
    public (string Id, string Token)? Link { get; private set; }

    /// <summary>What is wrong.</summary>
    public string? Problem { get; private set; }

    /// <summary>Shows the form for the address, or for the new password.</summary>
    public void OnGet(string? id, string? token)
    {
        if (id is not null && token is not null)
            Link = (id, token);
    }

    /// <summary>Sends the link.</summary>
    public async Task<IActionResult> OnPostAsync(string? email)
    {
        // Somebody with a watch would otherwise learn who has an account.
        var answers = Task.Delay(Takes, HttpContext.RequestAborted);
        if (
            email is { Length: > 0 and <= SignInAttempts.LongestAccount }
            && await users.FindByEmailAsync(email) is { } user
        )
        {
            string token = await users.GeneratePasswordResetTokenAsync(user);
            await accounts.SendResetAsync(
                user,
                site.Value,
                token,
                new Actor(user.Id, Caller.Address(HttpContext)),
                HttpContext.RequestAborted
            );
        }

        await answers;
        Sent = true;
        return Page();
    }

    /// <summary>Sets the new password and ends all sessions.</summary>
    public async Task<IActionResult> OnPostResetAsync(string id, string token, string? password)
    {
        Link = (id, token);
        if (await users.FindByIdAsync(id) is not { } user)
        {
            Problem = "The link has expired or was used; ask for another.";
            return Page();
        }

        var result = await users.ResetPasswordAsync(user, token, password ?? "");
        if (!result.Succeeded)
        {
            Problem = result.Errors.Any(e => e.Code == "InvalidToken")
                ? "The link has expired or was used; ask for another."
                : string.Join(" ", result.Errors.Select(e => e.Description));
            return Page();
        }

        await sessions.EndAsync(user.Id);
        await accounts.NoteAsync(
            new Actor(user.Id, Caller.Address(HttpContext)),
            "chose a new password by mail",
            user.Email!,
            HttpContext.RequestAborted
        );
        TempData["Done"] = "The new password is set; sign in with it.";
        return RedirectToPage("/SignIn");
    }
}
