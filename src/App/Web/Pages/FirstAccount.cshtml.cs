using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages;

/// <summary>The first account of a site: whoever started it has the code.</summary>
[EnableRateLimiting(Security.SignInLimit)]
public sealed class FirstAccountModel(LintelDb db, FirstCode code, AccountMaker maker, LintelSignIn signIn) : PageModel
{
    /// <summary>What is wrong.</summary>
    public string? Problem { get; private set; }

    /// <summary>The e-mail typed.</summary>
    public string Email { get; private set; } = "";

    /// <summary>The name typed.</summary>
    public string DisplayName { get; private set; } = "";

    /// <summary>Shows the form while there is no account.</summary>
    public async Task<IActionResult> OnGetAsync() =>
        await db.Users.AnyAsync(HttpContext.RequestAborted) ? NotFound() : Page();

    /// <summary>Makes the account.</summary>
    public async Task<IActionResult> OnPostAsync(string? typed, string? email, string? name, string? password)
    {
        // One at a time: two first accounts are one too many.
        await using var transaction = await db.Database.BeginTransactionAsync(HttpContext.RequestAborted);
        await db.Database.ExecuteSqlAsync($"LOCK TABLE \"AspNetUsers\" IN EXCLUSIVE MODE", HttpContext.RequestAborted);
        if (await db.Users.AnyAsync(HttpContext.RequestAborted))
            return NotFound();
        (Email, DisplayName) = (email ?? "", name ?? "");
        try
        {
            if (!code.Is(typed))
                throw new RefusedException(
                    RefusalKind.Forbidden,
                    "This is not the code that the start command printed."
                );
            var user = await maker.MakeAsync(
                InputRules.Of(email, "The e-mail address", 254).ToLowerInvariant(),
                name,
                password,
                true
            );
            db.Note(new Actor(user.Id, Sessions.Address(HttpContext)), null, "made the first account", user.Email!);
            await db.SaveChangesAsync(HttpContext.RequestAborted);
            await transaction.CommitAsync(HttpContext.RequestAborted);
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
