using System.Security.Claims;
using Microsoft.AspNetCore;
using Microsoft.AspNetCore.Authentication;
using Microsoft.IdentityModel.Tokens;
using OpenIddict.Abstractions;
using OpenIddict.Server.AspNetCore;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>OAuth 2 for programs: a person's consent with a code and PKCE (RFC 6749, 4.1; RFC 7636), or a program as itself (4.4).
/// </summary>
public static class ProgramSignIn
{
    /// <summary>Where a person consents.</summary>
    public const string AuthorizePath = "/oauth/authorize";

    /// <summary>Where tokens are got.</summary>
    public const string TokenPath = "/oauth/token";

    /// <summary>The only scope: topics.</summary>
    public const string Scope = "topics";

    private const string RevokePath = "/oauth/revoke";

    private static readonly TimeSpan Access = TimeSpan.FromHours(1),
        Renewal = TimeSpan.FromDays(60);

    /// <summary>Adds the server of tokens, and what looks at them.</summary>
    public static void Add(IServiceCollection services)
    {
        services.AddScoped<RegisteredPrograms>();
        services.AddSingleton<ConsentTickets>();
        services.AddHostedService<ProgramPruning>();
        services
            .AddOpenIddict()
            .AddServer(o =>
            {
                o.SetAuthorizationEndpointUris(AuthorizePath)
                    .SetTokenEndpointUris(TokenPath)
                    .SetRevocationEndpointUris(RevokePath);
                o.AllowAuthorizationCodeFlow().AllowClientCredentialsFlow().AllowRefreshTokenFlow();
                o.RequireProofKeyForCodeExchange();
                o.RegisterScopes(Scope, OpenIddictConstants.Scopes.OfflineAccess);
                o.SetAccessTokenLifetime(Access).SetRefreshTokenLifetime(Renewal);
                // Tokens are rows: one that is revoked is worth nothing at once. They are protected like cookies; the keys that the
                // library asks for beside are not used.
                o.UseReferenceAccessTokens().UseReferenceRefreshTokens().UseDataProtection();
                o.AddEphemeralEncryptionKey().AddEphemeralSigningKey();
                // TLS ends at the proxy in front, as for pages.
                o.UseAspNetCore()
                    .EnableAuthorizationEndpointPassthrough()
                    .EnableTokenEndpointPassthrough()
                    .EnableStatusCodePagesIntegration()
                    .DisableTransportSecurityRequirement();
            })
            .AddValidation(o =>
            {
                o.UseLocalServer();
                o.UseDataProtection();
                o.EnableAuthorizationEntryValidation();
                o.UseAspNetCore();
            });
    }

    /// <summary>Adds the address where tokens are got; the consent is a page.</summary>
    public static void Map(IEndpointRouteBuilder app) =>
        app.MapPost(TokenPath, TokenAsync).DisableAntiforgery().RequireRateLimiting(Security.SignInLimit);

    /// <summary>Who a program acts for, and what it may do.</summary>
    public static ClaimsPrincipal Principal(Guid person, IEnumerable<string> asked)
    {
        var identity = new ClaimsIdentity(
            TokenValidationParameters.DefaultAuthenticationType,
            OpenIddictConstants.Claims.Name,
            OpenIddictConstants.Claims.Role
        );
        identity.SetClaim(OpenIddictConstants.Claims.Subject, person.ToString());
        // Programs that ask for no scope mean the only one there is.
        identity.SetScopes(asked.Intersect([OpenIddictConstants.Scopes.OfflineAccess]).Prepend(Scope));
        identity.SetDestinations(_ => [OpenIddictConstants.Destinations.AccessToken]);
        return new ClaimsPrincipal(identity);
    }

    private static async Task<IResult> TokenAsync(HttpContext http, PeopleQuery people)
    {
        const string scheme = OpenIddictServerAspNetCoreDefaults.AuthenticationScheme;
        var request = http.GetOpenIddictServerRequest()!;
        ClaimsPrincipal principal;
        Guid person;
        if (request.IsClientCredentialsGrantType())
        {
            person = RegisteredPrograms.OwnerOf(request.ClientId);
            principal = Principal(person, []);
        }
        else
        {
            // What the consent, or the token that is renewed, says; both are checked by now.
            var known = (await http.AuthenticateAsync(scheme)).Principal!;
            person = Guid.Parse(known.GetClaim(OpenIddictConstants.Claims.Subject)!);
            var identity = new ClaimsIdentity(
                known.Claims,
                TokenValidationParameters.DefaultAuthenticationType,
                OpenIddictConstants.Claims.Name,
                OpenIddictConstants.Claims.Role
            );
            identity.SetDestinations(_ => [OpenIddictConstants.Destinations.AccessToken]);
            principal = new ClaimsPrincipal(identity);
        }

        if (await people.UserAsync(person, http.RequestAborted) is null)
            return Results.Forbid(
                new AuthenticationProperties(
                    new Dictionary<string, string?>
                    {
                        [OpenIddictServerAspNetCoreConstants.Properties.Error] = OpenIddictConstants
                            .Errors
                            .InvalidGrant,
                        [OpenIddictServerAspNetCoreConstants.Properties.ErrorDescription] =
                            "The account that this program acts for is gone.",
                    }
                ),
                [scheme]
            );
        return Results.SignIn(principal, authenticationScheme: scheme);
    }
}
