using System.Collections.Concurrent;
using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.IdentityModel.JsonWebTokens;
using Microsoft.IdentityModel.Tokens;

namespace SteadyLintel.Web;

/// <summary>A small provider of identities for the demo and the tests: whoever comes is who they say, so it answers only on this machine.
/// </summary>
/// <remarks>After OpenID Connect Core 1.0 and Discovery 1.0, RFC 6749 (4.1) and RFC 7636 (S256), as far as signing in goes.</remarks>
internal sealed class StandInProvider
{
    /// <summary>The path that it lies under.</summary>
    public const string Path = "/stand-in";

    private readonly RsaSecurityKey _key = new(RSA.Create(2048)) { KeyId = "stand-in" };
    private readonly ConcurrentDictionary<string, Grant> _grants = new();

    private sealed record Grant(
        string Client,
        string Redirect,
        string Nonce,
        string Challenge,
        string Email,
        bool Verified
    );

    /// <summary>Adds its addresses.</summary>
    public static void Map(WebApplication app)
    {
        var provider = new StandInProvider();
        var group = app.MapGroup(Path)
            .AddEndpointFilter(
                async (context, next) =>
                    context.HttpContext.Connection.RemoteIpAddress is { } from && System.Net.IPAddress.IsLoopback(from)
                        ? await next(context)
                        : Results.NotFound()
            );
        group.MapGet("/.well-known/openid-configuration", (HttpRequest request) => Discovery(Issuer(request)));
        group.MapGet("/keys", provider.Keys);
        group.MapGet("/authorize", Ask);
        group.MapPost("/authorize", provider.GrantAsync).DisableAntiforgery();
        group.MapPost("/token", provider.TokenAsync).DisableAntiforgery();
    }

    private static string Issuer(HttpRequest request) => $"{request.Scheme}://{request.Host}{Path}";

    private static IResult Discovery(string issuer) =>
        Results.Json(
            new Dictionary<string, object>
            {
                ["issuer"] = issuer,
                ["authorization_endpoint"] = issuer + "/authorize",
                ["token_endpoint"] = issuer + "/token",
                ["jwks_uri"] = issuer + "/keys",
                ["response_types_supported"] = new[] { "code" },
                ["subject_types_supported"] = new[] { "public" },
                ["id_token_signing_alg_values_supported"] = new[] { SecurityAlgorithms.RsaSha256 },
            }
        );

    private IResult Keys()
    {
        var key = _key.Rsa.ExportParameters(false);
        return Results.Json(
            new
            {
                keys = new[]
                {
                    new
                    {
                        kty = "RSA",
                        use = "sig",
                        kid = _key.KeyId,
                        alg = SecurityAlgorithms.RsaSha256,
                        n = Base64UrlEncoder.Encode(key.Modulus),
                        e = Base64UrlEncoder.Encode(key.Exponent),
                    },
                },
            }
        );
    }

    private static IResult Ask(HttpRequest request)
    {
        var page = new StringBuilder(
            "<!DOCTYPE html><html lang=en><title>Stand-in for a company's sign-in</title><h1>Stand-in for a company's sign-in</h1>"
                + "<p>Say who you are; nothing is checked here.</p><form method=post>"
        );
        foreach (var (name, value) in request.Query)
            page.Append($"<input type=hidden name=\"{Html(name)}\" value=\"{Html(value.ToString())}\">");
        page.Append(
            "<p><label>E-mail <input name=email type=email required></label></p><p><label><input type=checkbox name=verified value=true checked> "
                + "the company vouches for this address</label></p><p><button>Go on</button></p></form></html>"
        );
        return Results.Content(page.ToString(), "text/html");
    }

    private async Task<IResult> GrantAsync(HttpRequest request)
    {
        var form = await request.ReadFormAsync();
        string code = Base64UrlEncoder.Encode(RandomNumberGenerator.GetBytes(32));
        _grants[code] = new Grant(
            form["client_id"].ToString(),
            form["redirect_uri"].ToString(),
            form["nonce"].ToString(),
            form["code_challenge"].ToString(),
            form["email"].ToString(),
            form["verified"] == "true"
        );
        return Results.Redirect(
            QueryHelpers.AddQueryString(
                form["redirect_uri"].ToString(),
                new Dictionary<string, string?> { ["code"] = code, ["state"] = form["state"].ToString() }
            )
        );
    }

    private async Task<IResult> TokenAsync(HttpRequest request)
    {
        var form = await request.ReadFormAsync();
        string challenge = Base64UrlEncoder.Encode(
            SHA256.HashData(Encoding.ASCII.GetBytes(form["code_verifier"].ToString()))
        );
        // A code is good once.
        if (
            !_grants.TryRemove(form["code"].ToString(), out var grant)
            || grant.Challenge != challenge
            || grant.Redirect != form["redirect_uri"].ToString()
        )
            return Results.Json(new { error = "invalid_grant" }, statusCode: StatusCodes.Status400BadRequest);
        string token = new JsonWebTokenHandler().CreateToken(
            new SecurityTokenDescriptor
            {
                Issuer = Issuer(request),
                Audience = grant.Client,
                Expires = DateTime.UtcNow.AddMinutes(5),
                Subject = new ClaimsIdentity([
                    new("sub", grant.Email.ToUpperInvariant()),
                    new("nonce", grant.Nonce),
                    new("email", grant.Email),
                    new("email_verified", grant.Verified ? "true" : "false", ClaimValueTypes.Boolean),
                ]),
                SigningCredentials = new SigningCredentials(_key, SecurityAlgorithms.RsaSha256),
            }
        );
        return Results.Json(
            new
            {
                access_token = "none",
                token_type = "Bearer",
                expires_in = 300,
                id_token = token,
            }
        );
    }

    private static string Html(string text) => System.Net.WebUtility.HtmlEncode(text);
}
