using System.Security.Claims;
using System.Security.Cryptography.X509Certificates;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.RateLimiting;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>Sign-in, cookies, headers and limits.</summary>
internal static class Security
{
    /// <summary>The rate limit on sign-in attempts.</summary>
    public const string SignInLimit = "sign-in";

    /// <summary>The limit on what one person may have computed at the same time while a page waits for it.</summary>
    public const string ComputingLimit = "computing";

    // An order or a table typed into a form is the longest that one field holds.
    private const int LongestField = 4 << 20,
        LongestKey = 256,
        MostFields = 4096;

    // Pages that show a report call for none of it.
    private static readonly HashSet<string> Computing = new(StringComparer.OrdinalIgnoreCase)
    {
        "Plan",
        "Convert",
        "Converted",
        "Item",
        "Overlay",
        "Keep",
    };

    private const string Either = "Cookie or token";

    public static void AddSecurity(this IServiceCollection services, IConfiguration configuration)
    {
        services.AddHttpContextAccessor();
        // Only proxies that are named are believed about who asks and how: everybody can write these headers. An empty list of proxies
        // would mean all.
        services.Configure<ForwardedHeadersOptions>(o =>
        {
            string[] proxies = configuration.GetSection("Site:Proxies").Get<string[]>() ?? [];
            o.ForwardedHeaders =
                proxies.Length == 0
                    ? ForwardedHeaders.None
                    : ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto;
            o.KnownProxies.Clear();
            o.KnownIPNetworks.Clear();
            foreach (string proxy in proxies)
                o.KnownProxies.Add(System.Net.IPAddress.Parse(proxy));
        });
        services.Configure<Microsoft.AspNetCore.Http.Features.FormOptions>(o =>
        {
            (o.ValueLengthLimit, o.ValueCountLimit) = (LongestField, MostFields);
            (o.KeyLengthLimit, o.BufferBodyLengthLimit) = (LongestKey, LongestField * 2L);
        });
        services.AddSingleton<SignInAttempts>();
        services
            .AddIdentity<AppUser, IdentityRole<Guid>>(o =>
            {
                o.Password.RequiredLength = 12;
                o.Password.RequireNonAlphanumeric = o.Password.RequireUppercase = o.Password.RequireDigit = false;
                o.User.RequireUniqueEmail = true;
            })
            .AddEntityFrameworkStores<LintelDb>()
            .AddSignInManager<LintelSignIn>()
            .AddDefaultTokenProviders()
            .AddTokenProvider<OnceAuthenticator>(TokenOptions.DefaultAuthenticatorProvider);
        services.Configure<DataProtectionTokenProviderOptions>(o => o.TokenLifespan = TimeSpan.FromHours(2));
        services.AddSingleton<CompanySignIn>();
        var authentication = services
            .AddAuthentication(o => o.DefaultScheme = o.DefaultAuthenticateScheme = o.DefaultChallengeScheme = Either)
            .AddPolicyScheme(Either, Either, o =>
                o.ForwardDefaultSelector = context =>
                    TokenAuthentication.Has(context.Request)
                        ? TokenAuthentication.SchemeName
                        : IdentityConstants.ApplicationScheme
            )
            .AddScheme<AuthenticationSchemeOptions, TokenAuthentication>(TokenAuthentication.SchemeName, null);
        CompanySignIn.Add(authentication, configuration);
        services
            .AddOpenIddict()
            .AddCore(o => o.UseEntityFrameworkCore().UseDbContext<LintelDb>().ReplaceDefaultEntities<Guid>());
        ProgramSignIn.Add(services);
        services.ConfigureApplicationCookie(o =>
        {
            o.LoginPath = "/signin";
            o.AccessDeniedPath = "/signin";
            o.Cookie.Name = "lintel";
            o.Cookie.SameSite = SameSiteMode.Lax;
            // How long a session lasts is decided at the server.
            o.ExpireTimeSpan = SignInSessions.Stay;
            o.Events.OnValidatePrincipal = Sessions.ValidateAsync;
            o.Events.OnRedirectToLogin = context => Redirect(context.HttpContext, context.RedirectUri);
        });
        AddKeys(services, configuration);
        services.AddAntiforgery(o => o.HeaderName = "RequestVerificationToken");
        int permits = configuration.GetValue("SignIn:PerMinute", 30),
            computing = configuration.GetValue("Work:PerPerson", 2);
        services.AddRateLimiter(o =>
        {
            o.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            o.OnRejected = (context, _) =>
            {
                context.HttpContext.Response.Headers.RetryAfter = "60";
                return ValueTask.CompletedTask;
            };
            o.AddPolicy(ComputingLimit, context =>
                Computing.Contains(context.Request.Query["handler"].ToString())
                    ? RateLimitPartition.GetConcurrencyLimiter(
                        context.User.FindFirstValue(ClaimTypes.NameIdentifier) ?? "",
                        _ => new ConcurrencyLimiterOptions { PermitLimit = computing, QueueLimit = 4 * computing }
                    )
                    : RateLimitPartition.GetNoLimiter("")
            );
            o.AddPolicy(SignInLimit, context =>
                context.Request.Method == "POST"
                    ? RateLimitPartition.GetFixedWindowLimiter(
                        Caller.Address(context),
                        _ => new FixedWindowRateLimiterOptions
                        {
                            PermitLimit = permits,
                            Window = TimeSpan.FromMinutes(1),
                        }
                    )
                    : RateLimitPartition.GetNoLimiter("")
            );
        });
    }

    // Keys that protect cookies lie in the database, which backups carry around: with a certificate they are of no use without its key.
    private static void AddKeys(IServiceCollection services, IConfiguration configuration)
    {
        var keys = services.AddDataProtection().SetApplicationName("SteadyLintel").PersistKeysToDbContext<LintelDb>();
        if (configuration["Keys:Certificate"] is not { Length: > 0 } file)
            return;
        string? password = configuration["Keys:Password"];
        keys.ProtectKeysWithCertificate(X509CertificateLoader.LoadPkcs12FromFile(file, password));
        // Keys made under certificates that have been replaced can still be read.
        keys.UnprotectKeysWithAnyCertificate([
            .. (configuration.GetSection("Keys:Old").Get<string[]>() ?? [])
                .Append(file)
                .Select(f => X509CertificateLoader.LoadPkcs12FromFile(f, password)),
        ]);
    }

    // A piece of an upload or a fragment cannot be answered with a page: it gets an answer that the session has ended.
    private static Task Redirect(HttpContext http, string to)
    {
        if (http.Request.Headers.ContainsKey("HX-Request"))
            http.Response.Headers["HX-Redirect"] = to;
        if (HttpMethods.IsGet(http.Request.Method) && !http.Request.Headers.ContainsKey("HX-Request"))
            http.Response.Redirect(to);
        else
            http.Response.StatusCode = StatusCodes.Status401Unauthorized;
        return Task.CompletedTask;
    }

    /// <summary>Nothing from elsewhere, no inline code without the page's nonce.</summary>
    public static HeaderPolicyCollection Headers() =>
        new HeaderPolicyCollection()
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
                csp.AddReportUri().To(PolicyReports.Path);
            });
}
