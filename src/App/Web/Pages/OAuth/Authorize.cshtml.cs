using Microsoft.AspNetCore;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.WebUtilities;
using OpenIddict.Abstractions;
using OpenIddict.Server.AspNetCore;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web.Pages.OAuth;

/// <summary>Asks a person whether a program may act for them.</summary>
[Authorize(AuthenticationSchemes = "Identity.Application")]
public sealed class AuthorizeModel(RegisteredPrograms programs, PeopleQuery people, ConsentTickets tickets) : PageModel
{
    private const string No = "no",
        Answer = "granted";

    /// <summary>The program that asks.</summary>
    public RegisteredProgram Program { get; private set; } = null!;

    /// <summary>Who registered it.</summary>
    public string Owner { get; private set; } = "";

    /// <summary>Who is asked.</summary>
    public string Person { get; private set; } = "";

    /// <summary>The site that the answer goes to.</summary>
    public string Site { get; private set; } = "";

    /// <summary>The link that consents.</summary>
    public string Yes { get; private set; } = "";

    /// <summary>The link that refuses.</summary>
    public string Refuse { get; private set; } = "";

    /// <summary>Asks, or takes the answer.</summary>
    public async Task<IActionResult> OnGetAsync(string? granted)
    {
        const string scheme = OpenIddictServerAspNetCoreDefaults.AuthenticationScheme;
        var cancel = HttpContext.RequestAborted;
        if (HttpContext.GetOpenIddictServerRequest() is not { ClientId: { } client } request)
            return NotFound();
        Program = await programs.FindAsync(client, cancel)
            ?? throw new RefusedException(RefusalKind.Unknown, "There is no such program any more.");
        var me = Caller.Id(User);
        string asked = QueryHelpers.AddQueryString(
            ProgramSignIn.AuthorizePath,
            Request
                .Query.Where(q => q.Key != Answer)
                .SelectMany(q => q.Value.Select(v => KeyValuePair.Create(q.Key, v)))
        );
        if (granted == No)
            return Forbid(
                new AuthenticationProperties(
                    new Dictionary<string, string?>
                    {
                        [OpenIddictServerAspNetCoreConstants.Properties.Error] = OpenIddictConstants
                            .Errors
                            .AccessDenied,
                        [OpenIddictServerAspNetCoreConstants.Properties.ErrorDescription] =
                            "The person did not consent.",
                    }
                ),
                scheme
            );
        if (granted is not null && tickets.Is(granted, me, asked))
            return SignIn(ProgramSignIn.Principal(me, request.GetScopes()), scheme);
        Owner = (await people.UserAsync(RegisteredPrograms.OwnerOf(client), cancel))?.DisplayName ?? "";
        Person = (await people.UserAsync(me, cancel))?.DisplayName ?? "";
        Site = new Uri(request.RedirectUri ?? Program.Redirect!).Authority;
        Yes = QueryHelpers.AddQueryString(asked, Answer, tickets.For(me, asked));
        Refuse = QueryHelpers.AddQueryString(asked, Answer, No);
        return Page();
    }
}
