using Hangfire;
using Hangfire.PostgreSql;
using Microsoft.EntityFrameworkCore;
using Serilog;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>The program as a server that works and serves no pages: beside the web, or on another machine with the same database.</summary>
internal static class WorkHost
{
    /// <summary>The argument that makes the program such a server.</summary>
    public const string Word = "work";

    public static async Task<int> MainAsync()
    {
        var builder = Host.CreateApplicationBuilder();
        builder.Services.AddSerilog(l =>
            l.ReadFrom.Configuration(builder.Configuration)
                .Enrich.FromLogContext()
                .WriteTo.Console(outputTemplate: LogLine)
        );
        builder.Services.AddWorkers(builder.Configuration);
        builder.Services.AddQueue(builder.Configuration);
        builder.Services.AddWork(builder.Configuration);
        Telemetry.Add(builder.Services, builder.Configuration);
        using var host = builder.Build();
        await host.RunAsync();
        return 0;
    }

    /// <summary>How a line of the log is written.</summary>
    public const string LogLine = "{Timestamp:HH:mm:ss} {Level:u3} {Message:lj} {Properties:j}{NewLine}{Exception}";

    /// <summary>The queue in the database, and what hands work to it.</summary>
    public static void AddQueue(this IServiceCollection services, IConfiguration configuration)
    {
        string connection = configuration.GetConnectionString("Lintel")!;
        services.AddScoped(s => s.GetRequiredService<IDbContextFactory<LintelDb>>().CreateDbContext());
        services.AddSingleton(SpaceOf(configuration));
        services.AddUseCases();
        services.AddScoped<IWorkQueue, HangfireQueue>();
        var takeOver = TimeSpan.FromSeconds(configuration.GetValue("Work:TakeOverSeconds", 30));
        services.AddHangfire(o =>
            o.UsePostgreSqlStorage(
                s => s.UseNpgsqlConnection(connection),
                new PostgreSqlStorageOptions
                {
                    UseSlidingInvisibilityTimeout = true,
                    InvisibilityTimeout = takeOver,
                    // Held for milliseconds; one that a killed process left behind would hold a worker up for ten minutes.
                    DistributedLockTimeout = takeOver,
                    QueuePollInterval = TimeSpan.FromMilliseconds(500),
                }
            )
        );
    }

    private static StorageQuotaOptions SpaceOf(IConfiguration configuration)
    {
        var usual = new StorageQuotaOptions();
        return new StorageQuotaOptions
        {
            JobBytes = Megabytes("JobMb", usual.JobBytes),
            PersonBytes = Megabytes("PersonMb", usual.PersonBytes),
            FreeBytes = Megabytes("FreeMb", usual.FreeBytes),
            Watched =
            [
                .. usual.Watched,
                .. configuration.GetSection("Space:Watched").Get<string[]>() ?? [],
                .. new[] { configuration["Originals:Folder"] }.OfType<string>().Where(f => f.Length > 0),
            ],
        };

        long Megabytes(string name, long bytes) => configuration.GetValue($"Space:{name}", bytes >> 20) << 20;
    }

    /// <summary>Takes work from the queue and has it done.</summary>
    public static void AddWork(this IServiceCollection services, IConfiguration configuration)
    {
        services.AddSingleton<WorkFolder>();
        services.AddSingleton<Runners>();
        services.AddTransient<QueuedWork>();
        services.AddHostedService<Sweeper>();
        services.AddHangfireServer(o =>
            o.WorkerCount = configuration.GetValue("Work:Workers", Environment.ProcessorCount)
        );
    }
}
