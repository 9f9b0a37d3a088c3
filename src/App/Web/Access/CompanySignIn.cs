using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.OpenIdConnect;
using Microsoft.AspNetCore.Identity;
using Microsoft.IdentityModel.Protocols.OpenIdConnect;

namespace SteadyLintel.Web;

/// <summary>Signing in at a company's own provider (OpenID Connect Core 1.0, authorization code flow with PKCE), where one is
/// set.</summary>
public sealed class CompanySignIn(IConfiguration configuration)
{
    /// <summary>The name of the scheme.</summary>
    public const string Scheme = "Company";

    /// <summary>Whether a provider is set.</summary>
    public bool IsSet => IsSetIn(configuration);

    /// <summary>What the button says.</summary>
    public string Name => configuration["Company:Name"] is { Length: > 0 } name ? name : "your company";

    private static bool IsSetIn(IConfiguration configuration) => Authority(configuration) is { Length: > 0 };

    private static string? Authority(IConfiguration configuration) =>
        configuration.GetValue("Company:StandIn", false)
            ? configuration["URLS"]?.Split(';')[0].TrimEnd('/') + StandInProvider.Path
            : configuration["Company:Authority"];

    /// <summary>Adds the scheme when a provider is set.</summary>
    public static void Add(AuthenticationBuilder authentication, IConfiguration configuration)
    {
        if (!IsSetIn(configuration))
            return;
        authentication.AddOpenIdConnect(Scheme, o =>
        {
            o.Authority = Authority(configuration);
            o.ClientId = configuration["Company:ClientId"] ?? "steady-lintel";
            o.ClientSecret = configuration["Company:ClientSecret"];
            o.CallbackPath = "/signin/company/callback";
            o.SignInScheme = IdentityConstants.ExternalScheme;
            o.ResponseType = OpenIdConnectResponseType.Code;
            // The answer comes as a link, with cookies that a link brings along; a form of another site would bring none.
            o.ResponseMode = OpenIdConnectResponseMode.Query;
            o.CorrelationCookie.SameSite = o.NonceCookie.SameSite = SameSiteMode.Lax;
            o.CorrelationCookie.SecurePolicy = o.NonceCookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
            o.MapInboundClaims = false;
            o.Scope.Clear();
            foreach (string scope in (string[])["openid", "email", "profile"])
                o.Scope.Add(scope);
            // Only a provider on this machine may be asked without TLS.
            o.RequireHttpsMetadata = !(Uri.TryCreate(o.Authority, UriKind.Absolute, out var at) && at.IsLoopback);
            o.TokenValidationParameters.NameClaimType = "name";
            o.Events.OnRemoteFailure = context =>
            {
                context.HandleResponse();
                context.Response.Redirect("/signin/company/done?failed=true");
                return Task.CompletedTask;
            };
        });
    }
}
