using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>The session of a request: named by a claim, open as long as its row is (<see cref="SignInSessions"/>).</summary>
public static class Sessions
{
    /// <summary>The claim that names the session.</summary>
    public const string Claim = "lintel/session";

    /// <summary>The session of a request; empty when it has none.</summary>
    public static Guid Of(ClaimsPrincipal user) =>
        Guid.TryParse(user.FindFirstValue(Claim), out var id) ? id : Guid.Empty;

    /// <summary>Refuses cookies whose session has ended.</summary>
    public static async Task ValidateAsync(CookieValidatePrincipalContext context)
    {
        // The page that says that something failed is shown to whoever asks; the database may be what failed.
        if (context.HttpContext.Features.Get<Microsoft.AspNetCore.Diagnostics.IExceptionHandlerFeature>() is not null)
        {
            context.RejectPrincipal();
            return;
        }

        var sessions = context.HttpContext.RequestServices.GetRequiredService<SignInSessions>();
        if (context.Principal is { } user && await sessions.SeeAsync(Of(user), Caller.Address(context.HttpContext)))
            return;
        context.RejectPrincipal();
        await context.HttpContext.SignOutAsync(IdentityConstants.ApplicationScheme);
    }
}

/// <summary>Signs people in, each time with a session of its own.</summary>
public sealed class LintelSignIn(
    UserManager<AppUser> users,
    IHttpContextAccessor accessor,
    IUserClaimsPrincipalFactory<AppUser> claims,
    IOptions<IdentityOptions> options,
    ILogger<SignInManager<AppUser>> log,
    IAuthenticationSchemeProvider schemes,
    IUserConfirmation<AppUser> confirmation,
    SignInSessions sessions
) : SignInManager<AppUser>(users, accessor, claims, options, log, schemes, confirmation)
{
    /// <inheritdoc/>
    public override async Task SignInWithClaimsAsync(
        AppUser user,
        AuthenticationProperties? authenticationProperties,
        IEnumerable<Claim> additionalClaims
    )
    {
        var id = await sessions.BeginAsync(
            user,
            authenticationProperties?.IsPersistent == true,
            Caller.Address(Context),
            Context.Request.Headers.UserAgent.ToString()
        );
        await base.SignInWithClaimsAsync(
            user,
            authenticationProperties,
            [
                .. additionalClaims,
                new Claim(Sessions.Claim, id.ToString()),
                new Claim(LintelClaims.Zone, user.TimeZone),
                new Claim(LintelClaims.Lengths, user.Lengths),
                new Claim(LintelClaims.Keys, user.SingleKeys ? "on" : "off"),
                new Claim(LintelClaims.Name, user.DisplayName),
            ]
        );
    }
}

/// <summary>What a cookie says of a person.</summary>
public static class LintelClaims
{
    /// <summary>The time zone.</summary>
    public const string Zone = "lintel/zone";

    /// <summary>How lengths are written.</summary>
    public const string Lengths = "lintel/lengths";

    /// <summary>Whether keys without Ctrl or Alt do something: <c>off</c> where the person has switched them off.</summary>
    public const string Keys = "lintel/keys";

    /// <summary>The name to show.</summary>
    public const string Name = "lintel/name";

    /// <summary>What a token may do.</summary>
    public const string Scope = "lintel/scope";
}
