using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Pages;

/// <summary>The first account of a site: whoever started it has the code.</summary>
[EnableRateLimiting(Security.SignInLimit)]
public sealed class FirstAccountModel(Accounts accounts, FirstCode code, AccountMaker maker, LintelSignIn signIn)
    : PageModel
{
    /// <summary>What is wrong.</summary>
    public string? Problem { get; private set; }

    /// <summary>The e-mail typed.</summary>
    public string Email { get; private set; } = "";

    /// <summary>The name typed.</summary>
    public string DisplayName { get; private set; } = "";

    /// <summary>Shows the form while there is no account.</summary>
    public async Task<IActionResult> OnGetAsync() =>
        await accounts.AnyAsync(HttpContext.RequestAborted) ? NotFound() : Page();

    /// <summary>Makes the account.</summary>
    public async Task<IActionResult> OnPostAsync(string? typed, string? email, string? name, string? password)
    {
        (Email, DisplayName) = (email ?? "", name ?? "");
        try
        {
            var user = await accounts.MakeFirstAsync(
                async () =>
                    code.Is(typed)
                        ? await maker.MakeAsync(
                            InputRules.Of(email, "The e-mail address", 254).ToLowerInvariant(),
                            name,
                            password,
                            true
                        )
                        : throw new RefusedException(
                            RefusalKind.Forbidden,
                            "This is not the code that the start command printed."
                        ),
                Caller.Address(HttpContext),
                HttpContext.RequestAborted
            );
            if (user is null)
                return NotFound();
            await signIn.SignInAsync(user, false);
            return LocalRedirect("/");
        }
        catch (RefusedException e)
        {
            Problem = e.Message;
            return Page();
        }
    }
}
