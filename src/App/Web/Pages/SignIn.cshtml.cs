using System.ComponentModel.DataAnnotations;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages;

/// <summary>Signing in.</summary>
[EnableRateLimiting(Security.SignInLimit)]
public sealed class SignInModel(
    LintelSignIn signIn,
    UserManager<AppUser> users,
    SignInAttempts attempts,
    Accounts accounts
) : PageModel
{
    private const int LongestPassword = 1024;

    private const string TooMany = "Too many attempts; try again in ten minutes, or ask for a new password.";

    // Checked when there is no such account, so that the answer takes as long.
    private static readonly string SomeHash = new PasswordHasher<AppUser>().HashPassword(new AppUser(), "nobody");

    /// <summary>The e-mail typed.</summary>
    [BindProperty]
    [MaxLength(SignInAttempts.LongestAccount)]
    public string? Email { get; set; }

    /// <summary>The password typed.</summary>
    [BindProperty]
    [MaxLength(LongestPassword)]
    public string? Password { get; set; }

    /// <summary>Whether to stay signed in when the browser is closed.</summary>
    [BindProperty]
    public bool Stay { get; set; }

    /// <summary>Why it did not work.</summary>
    public string? Problem { get; private set; }

    /// <summary>Shows the form; before there is any account, the way to the first one.</summary>
    public async Task<IActionResult> OnGetAsync() =>
        await accounts.AnyAsync(HttpContext.RequestAborted) ? Page() : RedirectToPage("/FirstAccount");

    /// <summary>Signs in and goes to where the person wanted.</summary>
    public async Task<IActionResult> OnPostAsync(string? returnUrl)
    {
        string address = Caller.Address(HttpContext),
            email = (Email ?? "").Trim(),
            password = Password ?? "";
        if (!ModelState.IsValid || email.Length == 0 || password.Length == 0)
        {
            Problem = "Type your e-mail address and your password.";
            Response.StatusCode = StatusCodes.Status400BadRequest;
            return Page();
        }

        if (!attempts.Try(email, address))
        {
            Problem = TooMany;
            Response.StatusCode = StatusCodes.Status429TooManyRequests;
            Response.Headers.RetryAfter = "600";
            return Page();
        }

        var user = await users.FindByEmailAsync(email);
        if (user is null)
            new PasswordHasher<AppUser>().VerifyHashedPassword(new AppUser(), SomeHash, password);
        var result = user is null
            ? Microsoft.AspNetCore.Identity.SignInResult.Failed
            : await signIn.PasswordSignInAsync(user, password, Stay, lockoutOnFailure: false);
        if (result.Succeeded || result.RequiresTwoFactor)
            attempts.Right(email, address);
        if (result.Succeeded)
            return LocalRedirect(Url.IsLocalUrl(returnUrl) ? returnUrl : "/");
        if (result.RequiresTwoFactor)
            return RedirectToPage("/SignInCode", new { returnUrl, stay = Stay });
        Problem = "The e-mail or the password is not right.";
        return Page();
    }
}
