using Microsoft.AspNetCore.Diagnostics.HealthChecks;
using Microsoft.AspNetCore.ResponseCompression;
using Microsoft.EntityFrameworkCore;
using Serilog;
using SteadyLintel.Jobs;
using SteadyLintel.Store;
using SteadyLintel.Web;
using SteadyLintel.Web.Pages;

const string Ready = "ready";
if (args is [RunnerLoop.Word])
    return await RunnerLoop.MainAsync();
if (args is [WorkHost.Word])
    return await WorkHost.MainAsync();
var builder = WebApplication.CreateBuilder(args);
builder.Host.UseSerilog(
    (context, log) =>
        log
            .ReadFrom.Configuration(context.Configuration)
            .Enrich.FromLogContext()
            .WriteTo.Console(outputTemplate: WorkHost.LogLine)
);
string connection = builder.Configuration.GetConnectionString("Lintel")
    ?? throw new InvalidOperationException("ConnectionStrings:Lintel is not set; ./start sets it.");
builder.Services.AddWorkers(builder.Configuration);
builder.Services.AddQueue(builder.Configuration);

// Elsewhere a server of its own works: the same program, started with the word work.
if (builder.Configuration.GetValue("Work:Here", true))
    builder.Services.AddWork(builder.Configuration);
builder.Services.AddSecurity(builder.Configuration);
Telemetry.Add(builder.Services, builder.Configuration);
builder.Services.AddScoped<AccountMaker>();
builder.Services.AddSingleton<FirstCode>();
builder.Services.AddSingleton<SteadyLintel.Web.Views.CombinedPictures>();
builder.Services.AddSingleton<SiteAddress>();
builder.Services.AddSingleton<CalendarKeys>();
builder.Services.AddHostedService<MailSender>();
if (builder.Configuration.GetValue("Mail:StandInPort", 0) > 0)
{
    builder.Services.AddSingleton<StandInMail>();
    builder.Services.AddHostedService(s => s.GetRequiredService<StandInMail>());
}

builder.Services.AddSingleton(TopicServerOptionsOf(builder.Configuration));
builder.Services.AddSingleton(s => new TopicServerConnection(s.GetRequiredService<TopicServerOptions>()));
builder.Services.AddSingleton<TopicServerSignIn>();
builder.Services.AddHostedService<TopicExchanges>();
builder.Services.AddScoped<DemoSeed>();
if (builder.Configuration.GetValue("Demo:Load", false) && builder.Configuration.GetValue("Demo:Route", false))
    builder.Services.AddHostedService<DemoRoute>();
builder
    .Services.AddRazorPages(o =>
        o.Conventions.ConfigureFilter(new Microsoft.AspNetCore.Mvc.IgnoreAntiforgeryTokenAttribute())
    )
    .AddMvcOptions(o =>
    {
        o.Filters.Add<AntiforgeryFilter>();
        o.Filters.Add<TokenScopeFilter>();
        o.Filters.Add<InputFilter>();
        o.Filters.Add<RefusalFilter>();
    });
builder.Services.AddResponseCompression(o =>
{
    o.EnableForHttps = true;
    o.MimeTypes = [.. ResponseCompressionDefaults.MimeTypes, "application/octet-stream", "image/svg+xml"];
});
builder.Services.AddHealthChecks().AddNpgSql(connection, tags: [Ready]);
builder.WebHost.ConfigureKestrel(o => o.AddServerHeader = false);

var app = builder.Build();
await using (var scope = app.Services.CreateAsyncScope())
{
    await LintelDbFactory.BringUpToDateAsync(scope.ServiceProvider.GetRequiredService<LintelDb>());
    if (app.Configuration.GetValue<bool>("Demo:Load"))
        await scope.ServiceProvider.GetRequiredService<DemoSeed>().RunAsync();
    await app
        .Services.GetRequiredService<FirstCode>()
        .AnnounceAsync(scope.ServiceProvider.GetRequiredService<Accounts>());
}

SheetPdf.UseFonts(app.Environment.WebRootFileProvider);
app.UseForwardedHeaders();

// Before anybody is asked who they are: that needs the database. Live: the process answers; it is to be restarted when it does not.
// Ready: it can do its work, and may be given requests.
app.UseHealthChecks("/health/live", new HealthCheckOptions { Predicate = _ => false });
app.UseHealthChecks("/health/ready", new HealthCheckOptions { Predicate = c => c.Tags.Contains(Ready) });
app.UseHealthChecks("/health");

// Browsers are asked to come by TLS only; development has none.
if (!app.Environment.IsDevelopment())
    app.UseHsts();
app.UseSecurityHeaders(Security.Headers());
app.UseExceptionHandler("/error");
app.UseStatusCodePagesWithReExecute("/error", "?status={0}");
app.UseResponseCompression();
app.UseStaticFiles();
app.UseSerilogRequestLogging();
app.UseRouting();
app.UseAuthentication();

// After authentication: one of the limits counts for each person.
app.UseRateLimiter();
app.UseAuthorization();
app.Use(
    (context, next) =>
    {
        ReaderZone.Set(context.User.FindFirst(LintelClaims.Zone)?.Value);
        ReaderUnit.Set(context.User.FindFirst(LintelClaims.Lengths)?.Value);
        return next(context);
    }
);
app.MapRazorPages();
SteadyLintel.Web.Api.BcfApi.Map(app);
ProgramSignIn.Map(app);
PolicyReports.Map(app);
if (app.Configuration.GetValue("Company:StandIn", false))
    StandInProvider.Map(app);
if (app.Configuration.GetValue("TopicServers:StandIn", false))
    DemoTopicServer.Make().Map(app);
if (!app.Environment.IsDevelopment() && app.Configuration["AllowedHosts"] is null or "*")
    app.Logger.LogWarning(
        "AllowedHosts is not set: the site answers to every name. Set it to the names that it is asked by."
    );
if (!app.Environment.IsDevelopment() && app.Configuration["Site:Address"] is null)
    app.Logger.LogWarning("Site:Address is not set: links in mails take the address that the server listens at.");
app.Run();
return 0;

// The stand-in lies on this machine, which is otherwise not asked.
static TopicServerOptions TopicServerOptionsOf(IConfiguration configuration) =>
    new()
    {
        Allowed =
        [
            .. configuration.GetSection("TopicServers:Allowed").Get<string[]>() ?? [],
            .. configuration.GetValue("TopicServers:StandIn", false) ? new[] { "127.0.0.1", "localhost" } : [],
        ],
    };
