using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages;

/// <summary>The second factor of signing in: a code of the authenticator, or a recovery code.</summary>
[EnableRateLimiting(Security.SignInLimit)]
public sealed class SignInCodeModel(LintelSignIn signIn, SignInAttempts attempts) : PageModel
{
    /// <summary>Why it did not work.</summary>
    public string? Problem { get; private set; }

    /// <summary>Shows the form to whoever has just given the password.</summary>
    public async Task<IActionResult> OnGetAsync() =>
        await signIn.GetTwoFactorAuthenticationUserAsync() is null ? RedirectToPage("/SignIn") : Page();

    /// <summary>Signs in.</summary>
    public async Task<IActionResult> OnPostAsync(string? code, string? returnUrl, bool stay)
    {
        if (await signIn.GetTwoFactorAuthenticationUserAsync() is not { } user)
            return RedirectToPage("/SignIn");
        string account = "code of " + user.Id,
            address = Caller.Address(HttpContext);
        string typed = (code ?? "").Replace(" ", "", StringComparison.Ordinal).Trim();
        if (!attempts.Try(account, address))
        {
            Problem = "Too many attempts; try again in ten minutes.";
            return Page();
        }

        // Codes of the authenticator have six digits; recovery codes have letters and a hyphen.
        var result =
            typed.Length == 6 && typed.All(char.IsAsciiDigit)
                ? await signIn.TwoFactorAuthenticatorSignInAsync(typed, stay, rememberClient: false)
                : await signIn.TwoFactorRecoveryCodeSignInAsync(typed);
        if (result.Succeeded)
            return LocalRedirect(Url.IsLocalUrl(returnUrl) ? returnUrl : "/");
        Problem = "This code is not right, or was used already.";
        return Page();
    }
}
