using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages;

/// <summary>Signing in.</summary>
[EnableRateLimiting(Security.SignInLimit)]
public sealed class SignInModel(SignInManager<AppUser> signIn) : PageModel
{
    /// <summary>The e-mail typed.</summary>
    [BindProperty]
    public string Email { get; set; } = "";

    /// <summary>The password typed.</summary>
    [BindProperty]
    public string Password { get; set; } = "";

    /// <summary>Why it did not work.</summary>
    public string? Problem { get; private set; }

    /// <summary>Signs in and goes to where the person wanted.</summary>
    public async Task<IActionResult> OnPostAsync(string? returnUrl)
    {
        var result = await signIn.PasswordSignInAsync(Email, Password, isPersistent: true, lockoutOnFailure: true);
        if (result.Succeeded) return LocalRedirect(Url.IsLocalUrl(returnUrl) ? returnUrl : "/");
        Problem = result.IsLockedOut ? "Too many attempts; try again in ten minutes." : "The e-mail or the password is not right.";
        return Page();
    }
}
