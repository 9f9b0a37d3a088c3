using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>Browsers that are signed in: each has a row, and is signed in as long as the row is open.</summary>
/// <param name="db">The database.</param>
public sealed class Sessions(LintelDb db)
{
    /// <summary>The claim that names the session.</summary>
    public const string Claim = "lintel/session";

    /// <summary>How long a session may be idle when the person does not stay signed in, and when it does.</summary>
    public static readonly TimeSpan Idle = TimeSpan.FromMinutes(30),
        Stay = TimeSpan.FromDays(30);

    private static readonly TimeSpan Tell = TimeSpan.FromMinutes(1);

    private const int LongestBrowser = 200;

    /// <summary>The session of a request; empty when it has none.</summary>
    public static Guid Of(ClaimsPrincipal user) =>
        Guid.TryParse(user.FindFirstValue(Claim), out var id) ? id : Guid.Empty;

    /// <summary>Begins a session.</summary>
    public async Task<Guid> BeginAsync(AppUser user, bool stays, HttpContext http)
    {
        var now = DateTime.UtcNow;
        string browser = http.Request.Headers.UserAgent.ToString();
        var session = new SignInSession
        {
            Id = Guid.NewGuid(),
            UserId = user.Id,
            BegunAt = now,
            SeenAt = now,
            Address = Address(http),
            Browser = StoredText.Clean(browser, LongestBrowser),
            Stays = stays,
        };
        db.Sessions.Add(session);
        db.Note(new Actor(user.Id, session.Address), null, "signed in", user.Email ?? "");
        await db.SaveChangesAsync();
        return session.Id;
    }

    /// <summary>Whether a session is open; it is seen then.</summary>
    public async Task<bool> SeeAsync(Guid id, HttpContext http)
    {
        if (
            await db.Sessions.AsNoTracking().FirstOrDefaultAsync(s => s.Id == id && s.EndedAt == null)
            is not { } session
        )
            return false;
        var now = DateTime.UtcNow;
        if (now - session.SeenAt > (session.Stays ? Stay : Idle))
        {
            await db.Sessions.Where(s => s.Id == id).ExecuteUpdateAsync(u => u.SetProperty(s => s.EndedAt, now));
            return false;
        }

        if (now - session.SeenAt > Tell)
            await db
                .Sessions.Where(s => s.Id == id)
                .ExecuteUpdateAsync(u => u.SetProperty(s => s.SeenAt, now).SetProperty(s => s.Address, Address(http)));
        return true;
    }

    /// <summary>Ends sessions of a person at once, whichever server they are at.</summary>
    /// <param name="user">The person.</param>
    /// <param name="only">One session; null for all.</param>
    /// <param name="but">A session that goes on.</param>
    public Task EndAsync(Guid user, Guid? only = null, Guid? but = null) =>
        db
            .Sessions.Where(s =>
                s.UserId == user && s.EndedAt == null && (only == null || s.Id == only) && (but == null || s.Id != but)
            )
            .ExecuteUpdateAsync(u => u.SetProperty(s => s.EndedAt, DateTime.UtcNow));

    /// <summary>The network address of a request.</summary>
    public static string Address(HttpContext http) => http.Connection.RemoteIpAddress?.ToString() ?? "";

    /// <summary>Refuses cookies whose session has ended.</summary>
    public static async Task ValidateAsync(CookieValidatePrincipalContext context)
    {
        // The page that says that something failed is shown to whoever asks; the database may be what failed.
        if (context.HttpContext.Features.Get<Microsoft.AspNetCore.Diagnostics.IExceptionHandlerFeature>() is not null)
        {
            context.RejectPrincipal();
            return;
        }

        var sessions = context.HttpContext.RequestServices.GetRequiredService<Sessions>();
        if (context.Principal is { } user && await sessions.SeeAsync(Of(user), context.HttpContext))
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
    Sessions sessions
) : SignInManager<AppUser>(users, accessor, claims, options, log, schemes, confirmation)
{
    /// <inheritdoc/>
    public override async Task SignInWithClaimsAsync(
        AppUser user,
        AuthenticationProperties? authenticationProperties,
        IEnumerable<Claim> additionalClaims
    )
    {
        var id = await sessions.BeginAsync(user, authenticationProperties?.IsPersistent == true, Context);
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
