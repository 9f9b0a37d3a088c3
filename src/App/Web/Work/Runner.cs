using System.Diagnostics;

namespace SteadyLintel.Web;

/// <summary>How a process left the work that it was given.</summary>
internal enum RunnerEnd
{
    /// <summary>It says that the work is over.</summary>
    Over,

    /// <summary>It says that the work is to be tried again later.</summary>
    Later,

    /// <summary>It came to its end.</summary>
    Died,
}

/// <summary>A process of this program that does one work at a time, so that the end of the one is not the end of the server.</summary>
/// <remarks>It reads a line on its standard input (<c>read ID</c>, <c>run ID</c>) and answers a line on its standard output
/// (<c>over</c>, <c>later</c>); when its input ends, it ends.</remarks>
internal sealed class Runner : IDisposable
{
    private static readonly (string Name, string Value)[] Usual =
    [
        ("DOTNET_GCgen0size", "4000000"),
        ("DOTNET_gcConcurrent", "0"),
        ("DOTNET_TieredPGO", "0"),
        ("DOTNET_TC_CallCountingDelayMs", "0"),
    ];

    private readonly Process _process;
    private readonly string _folder;

    /// <param name="configuration">The server's settings.</param>
    /// <param name="memoryMb">What the process may take, MB of managed memory.</param>
    /// <param name="folder">An empty folder for its temporary files, removed with it.</param>
    /// <param name="log">Where its log goes.</param>
    public Runner(IConfiguration configuration, int memoryMb, string folder, ILogger log)
    {
        _folder = folder;
        var start = new ProcessStartInfo(Environment.ProcessPath ?? "dotnet")
        {
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            WorkingDirectory = Environment.CurrentDirectory,
        };
        // Started as `dotnet SteadyLintel.Web.dll` the program is an argument, as an executable it is the process itself.
        string program = Path.Combine(AppContext.BaseDirectory, "SteadyLintel.Web.dll");
        if (Path.GetFileNameWithoutExtension(start.FileName).Equals("dotnet", StringComparison.OrdinalIgnoreCase))
            start.ArgumentList.Add(program);
        start.ArgumentList.Add(RunnerLoop.Word);
        start.Environment["ConnectionStrings__Lintel"] = configuration.GetConnectionString("Lintel");
        start.Environment["Originals__Folder"] = configuration["Originals:Folder"];
        start.Environment["TMPDIR"] = _folder;
        start.Environment["DOTNET_gcServer"] = "0";
        // One work on all cores, soon over: room for 64 MB between two collections instead of a few, none beside the work, and code that is
        // called often compiled again at once, without counting first what it does. Whoever runs the server may set them.
        foreach (var (name, value) in Usual)
            start.Environment.TryAdd(name, value);
        start.Environment["DOTNET_GCHeapHardLimit"] = ((long)memoryMb << 20).ToString(
            "X",
            System.Globalization.CultureInfo.InvariantCulture
        );
        _process = Process.Start(start)
            ?? throw new InvalidOperationException("A process for work could not be started.");
        _process.ErrorDataReceived += (_, e) =>
        {
            if (e.Data is { Length: > 0 } line)
                log.LogInformation("Runner {Process}: {Line}", _process.Id, line);
        };
        // Lines come for as long as the process lives, and are not of the work that it was started for.
        using (ExecutionContext.SuppressFlow())
            _process.BeginErrorReadLine();
    }

    /// <summary>How many works it was given.</summary>
    public int Works { get; private set; }

    /// <summary>Whether it lives.</summary>
    public bool IsAlive => !_process.HasExited;

    /// <summary>How it came to its end, in words.</summary>
    public string Ending =>
        !_process.HasExited
            ? ""
            : _process.ExitCode switch
            {
                134 => "it was aborted",
                137 => "it was killed, as for lack of memory",
                139 => "it broke into memory",
                var code => $"exit code {code}",
            };

    /// <summary>Has a work done.</summary>
    public async Task<RunnerEnd> DoAsync(string kind, Guid id, CancellationToken cancel)
    {
        Works++;
        try
        {
            await _process.StandardInput.WriteLineAsync($"{kind} {id}".AsMemory(), cancel);
            await _process.StandardInput.FlushAsync(cancel);
            string? answer = await _process.StandardOutput.ReadLineAsync(cancel);
            if (answer == RunnerLoop.Over)
                return RunnerEnd.Over;
            if (answer == RunnerLoop.Later)
                return RunnerEnd.Later;
        }
        catch (IOException)
        {
            // The pipe broke: it is dying.
        }

        await _process.WaitForExitAsync(cancel);
        return RunnerEnd.Died;
    }

    /// <summary>Ends it at once.</summary>
    public void Dispose()
    {
        try
        {
            _process.Kill(true);
            _process.WaitForExit();
        }
        catch (InvalidOperationException)
        {
            // It has ended by itself.
        }

        _process.Dispose();
        if (Directory.Exists(_folder))
            Directory.Delete(_folder, true);
    }
}
