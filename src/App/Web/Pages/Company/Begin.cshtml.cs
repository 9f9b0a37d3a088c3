using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;

namespace SteadyLintel.Web.Pages.Company;

/// <summary>Sends a person to the company's own sign-in.</summary>
[EnableRateLimiting(Security.SignInLimit)]
public sealed class BeginModel(LintelSignIn signIn, CompanySignIn company) : PageModel
{
    /// <summary>Goes there, and comes back to <see cref="DoneModel"/>.</summary>
    public IActionResult OnGet(string? returnUrl)
    {
        if (!company.IsSet)
            return NotFound();
        string back = Url.Page("/Company/Done", new { returnUrl })!;
        return Challenge(
            signIn.ConfigureExternalAuthenticationProperties(CompanySignIn.Scheme, back),
            CompanySignIn.Scheme
        );
    }
}
