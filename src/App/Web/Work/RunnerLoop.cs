using Microsoft.EntityFrameworkCore;
using Serilog;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>The program as a process that works, see <see cref="Runner"/>.</summary>
internal static class RunnerLoop
{
    /// <summary>The argument that makes the program such a process.</summary>
    public const string Word = "runner";

    public const string Over = "over",
        Later = "later",
        Read = "read",
        Run = "run";

    public static async Task<int> MainAsync()
    {
        var builder = Host.CreateApplicationBuilder();
        // Standard output is for answers.
        builder.Services.AddSerilog(l =>
            l.ReadFrom.Configuration(builder.Configuration)
                .Enrich.FromLogContext()
                .WriteTo.Console(
                    outputTemplate: "{Level:u3} {Message:lj} {Properties:j}{NewLine}{Exception}",
                    standardErrorFromLevel: Serilog.Events.LogEventLevel.Verbose
                )
        );
        builder.Services.AddWorkers(builder.Configuration);
        using var host = builder.Build();
        // Whoever gave the work is gone, or does not want it any more.
        var lines = new System.Collections.Concurrent.BlockingCollection<string>();
        var listening = new Thread(() =>
        {
            while (Console.In.ReadLine() is { } line)
                lines.Add(line);
            Environment.Exit(0);
        })
        {
            IsBackground = true,
        };
        listening.Start();
        foreach (string line in lines.GetConsumingEnumerable())
        {
            await using var scope = host.Services.CreateAsyncScope();
            using var number = Serilog.Context.LogContext.PushProperty("Work", line.Split(' ')[^1]);
            var end = WorkEnd.Later;
            var (pauses, busy) = (GC.GetTotalPauseDuration(), Environment.CpuUsage.TotalTime);
            try
            {
                end = await DoAsync(scope.ServiceProvider, line);
            }
            catch (Exception e)
                when (e is System.Data.Common.DbException or InvalidOperationException or TimeoutException)
            {
                // A database that went away while the end of the work was to be noted is no fault of the work: dying here would be
                // counted against it.
                Log.Warning("The end of '{Work}' could not be noted: {Reason}", line, e.Message);
            }

            Log.Information(
                "It took {Busy:0.0} s of processors, {Pauses:0.0} s in collections, {Peak} MB at most so far",
                (Environment.CpuUsage.TotalTime - busy).TotalSeconds,
                (GC.GetTotalPauseDuration() - pauses).TotalSeconds,
                System.Diagnostics.Process.GetCurrentProcess().PeakWorkingSet64 >> 20
            );
            Console.Out.WriteLine(end == WorkEnd.Over ? Over : Later);
            Console.Out.Flush();
        }

        return 0;
    }

    private static Task<WorkEnd> DoAsync(IServiceProvider services, string line)
    {
        string[] words = line.Split(' ');
        var id = Guid.Parse(words[1]);
        return words[0] == Read
            ? services.GetRequiredService<ReadDelivery>().RunAsync(id, CancellationToken.None)
            : services.GetRequiredService<RunOrder>().RunAsync(id, CancellationToken.None);
    }

    /// <summary>The database and the kinds of work.</summary>
    public static void AddWorkers(this IServiceCollection services, IConfiguration configuration)
    {
        string connection = configuration.GetConnectionString("Lintel")
            ?? throw new InvalidOperationException("ConnectionStrings:Lintel is not set; ./start sets it.");
        services.AddDbContextFactory<LintelDb>(o => LintelDbFactory.Configure(o, connection));
        var usual = new WorkOptions();
        services.AddSingleton(
            new WorkOptions
            {
                Lease = TimeSpan.FromSeconds(configuration.GetValue("Work:TakeOverSeconds", usual.Lease.TotalSeconds)),
                Limit = TimeSpan.FromMinutes(configuration.GetValue("Work:MaxMinutes", usual.Limit.TotalMinutes)),
                Wait = TimeSpan.FromSeconds(configuration.GetValue("Work:LostSeconds", usual.Wait.TotalSeconds)),
                MemoryMb = configuration.GetValue("Work:MemoryMb", usual.MemoryMb),
            }
        );
        if (configuration["Originals:Folder"] is { Length: > 0 } folder)
            services.AddSingleton(new BlobFolder(folder));
        services.AddTransient<ReadDelivery>();
        services.AddTransient<RunOrder>();
    }
}
