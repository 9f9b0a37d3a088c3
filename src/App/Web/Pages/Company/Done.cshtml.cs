using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Company;

/// <summary>A person comes back from the company's own sign-in.</summary>
/// <remarks>Accounts still come by invitation only: who has none is not let in. The first time, the account is found by its e-mail address,
/// if the company vouches for it; from then on by the name that the company knows the person by.</remarks>
public sealed class DoneModel(LintelSignIn signIn, UserManager<AppUser> users, CompanySignIn company, Accounts accounts)
    : PageModel
{
    /// <summary>Why it did not work.</summary>
    public string Problem { get; private set; } = "";

    /// <summary>Signs the person in.</summary>
    public async Task<IActionResult> OnGetAsync(string? returnUrl, bool failed)
    {
        if (!company.IsSet)
            return NotFound();
        if (failed || await signIn.GetExternalLoginInfoAsync() is not { } info)
            return Refuse($"{Upper(company.Name)} did not say who you are. Try again, or sign in with your password.");
        var result = await signIn.ExternalLoginSignInAsync(info.LoginProvider, info.ProviderKey, isPersistent: false);
        if (!result.Succeeded && !result.RequiresTwoFactor)
        {
            string email = info.Principal.FindFirstValue("email") ?? "";
            bool vouched = string.Equals(
                info.Principal.FindFirstValue("email_verified"),
                "true",
                StringComparison.OrdinalIgnoreCase
            );
            if (email.Length == 0 || !vouched)
                return Refuse(
                    $"{Upper(company.Name)} does not vouch for your e-mail address, so no account can be found by it."
                );
            if (await users.FindByEmailAsync(email) is not { } user)
                return Refuse(
                    $"There is no account for {email}. Accounts come by invitation: ask the coordinator of your job for one."
                );
            await users.AddLoginAsync(user, info);
            await accounts.NoteAsync(
                new Actor(user.Id, Caller.Address(HttpContext)),
                "joined company sign-in to the account",
                email,
                HttpContext.RequestAborted
            );
            result = await signIn.ExternalLoginSignInAsync(info.LoginProvider, info.ProviderKey, isPersistent: false);
        }

        await HttpContext.SignOutAsync(IdentityConstants.ExternalScheme);
        if (result.RequiresTwoFactor)
            return RedirectToPage("/SignInCode", new { returnUrl });
        return result.Succeeded
            ? LocalRedirect(Url.IsLocalUrl(returnUrl) ? returnUrl : "/")
            : Refuse("Signing in did not work; try again.");
    }

    private PageResult Refuse(string why)
    {
        Problem = why;
        Response.StatusCode = StatusCodes.Status403Forbidden;
        return Page();
    }

    private static string Upper(string name) => char.ToUpperInvariant(name[0]) + name[1..];
}
