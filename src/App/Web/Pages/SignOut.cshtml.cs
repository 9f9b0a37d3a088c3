using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace SteadyLintel.Web.Pages;

/// <summary>Signing out.</summary>
public sealed class SignOutModel(LintelSignIn signIn, Sessions sessions) : PageModel
{
    /// <summary>Looking at the address signs nobody out.</summary>
    public IActionResult OnGet() => LocalRedirect("/");

    /// <summary>Signs out, at the server too.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        await sessions.EndAsync(JobAccess.UserId(User), Sessions.Of(User));
        await signIn.SignOutAsync();
        return LocalRedirect("/signin");
    }
}
