using System.Diagnostics;
using System.Diagnostics.Metrics;
using Npgsql;
using OpenTelemetry.Metrics;
using OpenTelemetry.Resources;
using OpenTelemetry.Trace;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>Traces and metrics for OpenTelemetry, sent where <c>OTEL_EXPORTER_OTLP_ENDPOINT</c> says; nothing is sent without it.</summary>
public sealed class Telemetry : IDisposable
{
    /// <summary>The name of our meter and traces.</summary>
    public const string Name = "SteadyLintel";

    private static readonly ActivitySource Source = new(Name);

    private readonly Meter _meter = new(Name);
    private readonly Histogram<double> _duration,
        _perMegabyte;
    private readonly Counter<long> _failures;
    private volatile QueueState _queue = new(0, TimeSpan.Zero);

    /// <summary>Makes the instruments.</summary>
    public Telemetry()
    {
        _duration = _meter.CreateHistogram<double>(
            "lintel.work.duration",
            "s",
            "How long a work took, by kind and end."
        );
        _perMegabyte = _meter.CreateHistogram<double>(
            "lintel.intake.per_megabyte",
            "s/MB",
            "How long a delivery took for each megabyte."
        );
        _failures = _meter.CreateCounter<long>("lintel.work.failures", "{work}", "Works that ended without a result.");
        _meter.CreateObservableGauge(
            "lintel.queue.length",
            () => _queue.Length,
            "{work}",
            "Works that wait or are under way."
        );
        _meter.CreateObservableGauge(
            "lintel.queue.age",
            () => _queue.Oldest.TotalSeconds,
            "s",
            "How long the oldest of them has waited."
        );
    }

    /// <summary>Notes the queue's state, as the sweeper found it.</summary>
    public void Queue(QueueState state) => _queue = state;

    /// <summary>Begins a trace of a work.</summary>
    public static Activity? Begin(string kind, Guid id) => Source.StartActivity(kind)?.SetTag("lintel.work", id);

    /// <summary>Notes the end of a work.</summary>
    /// <param name="kind">The word for it.</param>
    /// <param name="taken">How long it took.</param>
    /// <param name="end">How it ended, in a word.</param>
    /// <param name="failed">Whether there is no result.</param>
    /// <param name="bytes">The length of what was read, 0 for other work.</param>
    public void Ended(string kind, TimeSpan taken, string end, bool failed, long bytes)
    {
        var tags = new TagList { { "kind", kind }, { "end", end } };
        _duration.Record(taken.TotalSeconds, tags);
        if (failed)
            _failures.Add(1, tags);
        if (bytes > 0 && !failed)
            _perMegabyte.Record(taken.TotalSeconds / (bytes / 1e6), tags);
    }

    /// <inheritdoc/>
    public void Dispose() => _meter.Dispose();

    /// <summary>Adds the instruments, and the exporter where one is set.</summary>
    public static void Add(IServiceCollection services, IConfiguration configuration)
    {
        services.AddSingleton<Telemetry>();
        if (configuration["OTEL_EXPORTER_OTLP_ENDPOINT"] is not { Length: > 0 })
            return;
        services
            .AddOpenTelemetry()
            .ConfigureResource(r => r.AddService("steady-lintel"))
            .WithMetrics(m =>
                m.AddMeter(Name).AddAspNetCoreInstrumentation().AddRuntimeInstrumentation().AddOtlpExporter()
            )
            .WithTracing(t => t.AddSource(Name).AddAspNetCoreInstrumentation().AddNpgsql().AddOtlpExporter());
    }
}
