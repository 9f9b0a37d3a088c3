using Hangfire;
using Hangfire.PostgreSql;
using Microsoft.AspNetCore.Diagnostics.HealthChecks;
using Microsoft.AspNetCore.ResponseCompression;
using Microsoft.EntityFrameworkCore;
using Serilog;
using SteadyLintel.Jobs;
using SteadyLintel.Store;
using SteadyLintel.Web;
using SteadyLintel.Web.Pages;

const string Ready = "ready";
if (args is [RunnerLoop.Word]) return await RunnerLoop.MainAsync();
var builder = WebApplication.CreateBuilder(args);
builder.Host.UseSerilog((context, log) => log.ReadFrom.Configuration(context.Configuration).WriteTo
    .Console(outputTemplate: "{Timestamp:HH:mm:ss} {Level:u3} {Message:lj} {Properties:j}{NewLine}{Exception}"));
string connection = builder.Configuration.GetConnectionString("Lintel")
    ?? throw new InvalidOperationException("ConnectionStrings:Lintel is not set; ./start sets it.");
builder.Services.AddWorkers(builder.Configuration);
builder.Services.AddScoped(s => s.GetRequiredService<IDbContextFactory<LintelDb>>().CreateDbContext());
builder.Services.AddSecurity(builder.Configuration);
builder.Services.AddScoped<JobAccess>();
builder.Services.AddScoped<JobSetup>();
builder.Services.AddScoped<Members>();
builder.Services.AddScoped<AccountMaker>();
builder.Services.AddSingleton<FirstCode>();
builder.Services.AddSingleton<SiteAddress>();
builder.Services.AddHostedService<MailSender>();
if (builder.Configuration.GetValue("Mail:StandInPort", 0) > 0)
{
    builder.Services.AddSingleton<StandInMail>();
    builder.Services.AddHostedService(s => s.GetRequiredService<StandInMail>());
}

builder.Services.AddScoped<DemoSeed>();
builder.Services.AddScoped<Receiving>();
builder.Services.AddScoped<Orders>();
builder.Services.AddScoped<ConvertDrawing>();
builder.Services.AddScoped<IWorkQueue, HangfireQueue>();
builder.Services.AddSingleton<Runners>();
builder.Services.AddTransient<QueuedWork>();
builder.Services.AddHostedService<Sweeper>();
builder.Services.AddRazorPages(o => o.Conventions.ConfigureFilter(new Microsoft.AspNetCore.Mvc.IgnoreAntiforgeryTokenAttribute()))
    .AddMvcOptions(o => o.Filters.Add<AntiforgeryFilter>());
builder.Services.AddResponseCompression(o =>
{
    o.EnableForHttps = true;
    o.MimeTypes = [.. ResponseCompressionDefaults.MimeTypes, "application/octet-stream", "image/svg+xml"];
});
builder.Services.AddHealthChecks().AddNpgSql(connection, tags: [Ready]);
builder.WebHost.ConfigureKestrel(o => o.AddServerHeader = false);
builder.Services.AddHangfire(o => o.UsePostgreSqlStorage(s => s.UseNpgsqlConnection(connection), new PostgreSqlStorageOptions
{
    UseSlidingInvisibilityTimeout = true,
    InvisibilityTimeout = TimeSpan.FromSeconds(builder.Configuration.GetValue("Work:TakeOverSeconds", 30)),
    QueuePollInterval = TimeSpan.FromMilliseconds(500),
}));
builder.Services.AddHangfireServer(o => o.WorkerCount = builder.Configuration.GetValue("Work:Workers", Environment.ProcessorCount));

var app = builder.Build();
await using (var scope = app.Services.CreateAsyncScope())
{
    await LintelDbFactory.BringUpToDateAsync(scope.ServiceProvider.GetRequiredService<LintelDb>());
    if (app.Configuration.GetValue<bool>("Demo:Load")) await scope.ServiceProvider.GetRequiredService<DemoSeed>().RunAsync();
    await app.Services.GetRequiredService<FirstCode>().AnnounceAsync(scope.ServiceProvider.GetRequiredService<LintelDb>());
}

app.UseForwardedHeaders();
app.UseSecurityHeaders(Security.Headers());
app.UseExceptionHandler("/error");
app.UseStatusCodePagesWithReExecute("/error", "?status={0}");
app.UseResponseCompression();
app.UseStaticFiles();
app.UseSerilogRequestLogging();
app.UseRouting();
app.UseRateLimiter();
app.UseAuthentication();
app.UseAuthorization();
app.Use((context, next) =>
{
    ReaderZone.Set(context.User.FindFirst(LintelClaims.Zone)?.Value);
    return next(context);
});
app.MapRazorPages();
app.MapHealthChecks("/health");
// Live: the process answers; it is to be started anew when it does not. Ready: it can do its work, and may be given requests.
app.MapHealthChecks("/health/live", new HealthCheckOptions { Predicate = _ => false });
app.MapHealthChecks("/health/ready", new HealthCheckOptions { Predicate = c => c.Tags.Contains(Ready) });
app.Run();
return 0;
