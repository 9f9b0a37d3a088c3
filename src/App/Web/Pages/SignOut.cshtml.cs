using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Pages;

/// <summary>Signing out.</summary>
public sealed class SignOutModel(LintelSignIn signIn, SignInSessions sessions) : PageModel
{
    /// <summary>Looking at the address signs nobody out.</summary>
    public IActionResult OnGet() => LocalRedirect("/");

    /// <summary>Signs out, at the server too.</summary>
    public async Task<IActionResult> OnPostAsync()
    {
        await sessions.EndAsync(Caller.Id(User), Sessions.Of(User));
        await signIn.SignOutAsync();
        return LocalRedirect("/signin");
    }
}
