using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages;

/// <summary>Signing out.</summary>
public sealed class SignOutModel(SignInManager<AppUser> signIn) : PageModel
{
    /// <summary>Looking at the address signs nobody out.</summary>
    public IActionResult OnGet() => LocalRedirect("/");

    /// <summary>Signs out.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        await signIn.SignOutAsync();
        return LocalRedirect("/signin");
    }
}
