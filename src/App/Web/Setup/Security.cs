using System.Threading.RateLimiting;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>Sign-in, cookies, headers and limits.</summary>
internal static class Security
{
    /// <summary>The rate limit on sign-in attempts.</summary>
    public const string SignInLimit = "sign-in";

    public static void AddSecurity(this IServiceCollection services, IConfiguration configuration)
    {
        services.AddIdentity<AppUser, IdentityRole<Guid>>(o =>
        {
            o.Password.RequiredLength = 12;
            o.Password.RequireNonAlphanumeric = o.Password.RequireUppercase = o.Password.RequireDigit = false;
            o.Lockout.MaxFailedAccessAttempts = 6;
            o.Lockout.DefaultLockoutTimeSpan = TimeSpan.FromMinutes(10);
            o.User.RequireUniqueEmail = true;
        }).AddEntityFrameworkStores<LintelDb>();
        services.ConfigureApplicationCookie(o =>
        {
            o.LoginPath = "/signin";
            o.AccessDeniedPath = "/signin";
            o.Cookie.Name = "lintel";
            o.Cookie.SameSite = SameSiteMode.Lax;
            o.ExpireTimeSpan = TimeSpan.FromHours(12);
        });
        services.AddDataProtection().SetApplicationName("SteadyLintel").PersistKeysToDbContext<LintelDb>();
        services.AddAntiforgery(o => o.HeaderName = "RequestVerificationToken");
        int permits = configuration.GetValue("SignIn:PerMinute", 30);
        services.AddRateLimiter(o =>
        {
            o.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            o.AddPolicy(SignInLimit, context => context.Request.Method == "POST"
                ? RateLimitPartition.GetFixedWindowLimiter(context.Connection.RemoteIpAddress?.ToString()
                ?? "", _ => new FixedWindowRateLimiterOptions { PermitLimit = permits, Window = TimeSpan.FromMinutes(1) })
                : RateLimitPartition.GetNoLimiter(""));
        });
    }

    /// <summary>Nothing from elsewhere, no inline code without the page's nonce.</summary>
    public static HeaderPolicyCollection Headers() => new HeaderPolicyCollection()
        .AddDefaultSecurityHeaders()
        .RemoveServerHeader()
        .AddReferrerPolicySameOrigin()
        .AddContentSecurityPolicy(csp =>
        {
            csp.AddDefaultSrc().Self();
            csp.AddScriptSrc().Self().WithNonce().StrictDynamic();
            csp.AddStyleSrc().Self().WithNonce();
            csp.AddImgSrc().Self().Data().Blob();
            csp.AddConnectSrc().Self();
            csp.AddObjectSrc().None();
            csp.AddBaseUri().None();
            csp.AddFormAction().Self();
            csp.AddFrameAncestors().None();
        });
}
