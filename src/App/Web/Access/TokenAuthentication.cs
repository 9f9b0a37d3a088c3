using System.Security.Claims;
using System.Text.Encodings.Web;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.Extensions.Options;
using OpenIddict.Abstractions;
using OpenIddict.Validation.AspNetCore;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>Signs a request in by a personal access token, or one that a program got by OAuth: <c>Authorization: Bearer …</c>.</summary>
public sealed class TokenAuthentication(
    IOptionsMonitor<AuthenticationSchemeOptions> options,
    ILoggerFactory logger,
    UrlEncoder encoder,
    AccessTokens tokens
) : AuthenticationHandler<AuthenticationSchemeOptions>(options, logger, encoder)
{
    /// <summary>The scheme's name.</summary>
    public const string SchemeName = "Token";

    /// <summary>The answer to a program whose token does not allow something.</summary>
    public const string NotAllowed = "The token does not allow this; create one with the scope that it needs.";

    private const string Prefix = "Bearer ";

    /// <summary>Whether a request comes with a token.</summary>
    public static bool Has(HttpRequest request) =>
        request.Headers.Authorization.ToString().StartsWith(Prefix, StringComparison.OrdinalIgnoreCase);

    /// <summary>Whether a person signed in by token may do what a scope is about; whoever signed in otherwise may.</summary>
    public static bool Allows(ClaimsPrincipal user, string scope) =>
        user.Identity?.AuthenticationType != SchemeName || user.HasClaim(LintelClaims.Scope, scope);

    /// <inheritdoc/>
    protected override async Task<AuthenticateResult> HandleAuthenticateAsync()
    {
        if (!Has(Request))
            return AuthenticateResult.NoResult();
        string secret = Request.Headers.Authorization.ToString()[Prefix.Length..].Trim();
        if (!secret.StartsWith(AccessTokens.Prefix, StringComparison.Ordinal))
            return await ProgramAsync();
        return await tokens.UseAsync(secret) is { } token
            ? Success(token.UserId.ToString(), token.Scopes)
            : AuthenticateResult.Fail("The token is wrong, revoked or expired.");
    }

    // A token that a program got by OAuth.
    private async Task<AuthenticateResult> ProgramAsync()
    {
        var result = await Context.AuthenticateAsync(OpenIddictValidationAspNetCoreDefaults.AuthenticationScheme);
        return result.Principal?.GetClaim(OpenIddictConstants.Claims.Subject) is { } person
            ? Success(person, result.Principal.GetScopes())
            : AuthenticateResult.Fail("The token is wrong, revoked or expired.");
    }

    private static AuthenticateResult Success(string person, IEnumerable<string> scopes)
    {
        var identity = new ClaimsIdentity(
            [new Claim(ClaimTypes.NameIdentifier, person), .. scopes.Select(s => new Claim(LintelClaims.Scope, s))],
            SchemeName
        );
        return AuthenticateResult.Success(new AuthenticationTicket(new ClaimsPrincipal(identity), SchemeName));
    }
}

/// <summary>Asks for the page's token with every change, except from programs: they bring a secret that no page of others can
/// send.</summary>
public sealed class AntiforgeryFilter(IAntiforgery antiforgery) : IAsyncAuthorizationFilter
{
    /// <inheritdoc/>
    public async Task OnAuthorizationAsync(AuthorizationFilterContext context)
    {
        var request = context.HttpContext.Request;
        if (
            HttpMethods.IsGet(request.Method)
            || HttpMethods.IsHead(request.Method)
            || HttpMethods.IsOptions(request.Method)
            || TokenAuthentication.Has(request)
        )
            return;
        try
        {
            await antiforgery.ValidateRequestAsync(context.HttpContext);
        }
        catch (AntiforgeryValidationException)
        {
            context.Result = new BadRequestObjectResult(
                "The page is too old or was sent from elsewhere; load it again and repeat."
            );
        }
    }
}
