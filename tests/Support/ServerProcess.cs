using System.Diagnostics;
using System.Net;
using System.Net.Sockets;

namespace SteadyLintel.Tests;

/// <summary>A real web process on a free port, for tests that kill it.</summary>
public sealed class ServerProcess : IDisposable
{
    private readonly Process _process;
    private readonly List<string> _log = [];

    private ServerProcess(Process process, Uri address) => (_process, Address) = (process, address);

    /// <summary>Where it listens.</summary>
    public Uri Address { get; }

    /// <summary>Starts a process on a database and waits until it is healthy.</summary>
    public static async Task<ServerProcess> StartAsync(
        string connection,
        bool demo,
        params (string Key, string Value)[] settings
    )
    {
        string given = settings.FirstOrDefault(s => s.Key == "ASPNETCORE_URLS").Value ?? "";
        int port = given.Length > 0 ? new Uri(given).Port : FreePort();
        string program = Path.Combine(AppContext.BaseDirectory, "SteadyLintel.Web.dll");
        string root = Path.Combine(Root(), "src", "App", "Web");
        var start = new ProcessStartInfo("dotnet", [program])
        {
            WorkingDirectory = root,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        start.Environment["ConnectionStrings__Lintel"] = connection;
        start.Environment["ASPNETCORE_URLS"] = $"http://127.0.0.1:{port}";
        start.Environment["ASPNETCORE_ENVIRONMENT"] = "Development";
        start.Environment["Demo__Load"] = demo ? "true" : "false";
        start.Environment["SignIn__PerMinute"] = "1000";
        start.Environment["Work__TakeOverSeconds"] = "5";
        // Two tests at a time share two cores; a second process that works would only wait for them.
        start.Environment["Work__Workers"] = "1";
        int mail = FreePort();
        foreach (
            var (key, value) in new[]
            {
                ("Mail__Host", "127.0.0.1"),
                ("Mail__Port", $"{mail}"),
                ("Mail__StandInPort", $"{mail}"),
                ("Mail__Tls", "false"),
            }
        )
            start.Environment[key] = value;
        foreach (var (key, value) in settings)
            start.Environment[key] = value;
        var server = new ServerProcess(Process.Start(start)!, new Uri($"http://127.0.0.1:{port}"));
        server._process.OutputDataReceived += (_, e) => server.Log(e.Data);
        server._process.ErrorDataReceived += (_, e) => server.Log(e.Data);
        server._process.BeginOutputReadLine();
        server._process.BeginErrorReadLine();
        using var http = new HttpClient { BaseAddress = server.Address };
        for (int i = 0; i < 240; i++)
        {
            if (server._process.HasExited)
                throw new InvalidOperationException("The server ended: " + server.LogText);
            try
            {
                if ((await http.GetAsync("/health")).IsSuccessStatusCode)
                    return server;
            }
            catch (HttpRequestException)
            {
                // Not listening yet.
            }

            await Task.Delay(250);
        }

        throw new TimeoutException("The server did not start: " + server.LogText);
    }

    /// <summary>Starts a process that works and serves no pages.</summary>
    public static ServerProcess StartWorker(string connection)
    {
        var start = new ProcessStartInfo(
            "dotnet",
            [Path.Combine(AppContext.BaseDirectory, "SteadyLintel.Web.dll"), "work"]
        )
        {
            WorkingDirectory = Path.Combine(Root(), "src", "App", "Web"),
            RedirectStandardOutput = true,
        };
        start.Environment["ConnectionStrings__Lintel"] = connection;
        var worker = new ServerProcess(Process.Start(start)!, new Uri("http://127.0.0.1/"));
        worker._process.OutputDataReceived += (_, e) => worker.Log(e.Data);
        worker._process.BeginOutputReadLine();
        return worker;
    }

    /// <summary>What it printed.</summary>
    public string LogText
    {
        get
        {
            lock (_log)
                return string.Join("\n", _log);
        }
    }

    /// <summary>Ends it without warning, as a crash would.</summary>
    public void Kill()
    {
        if (_process.HasExited)
            return;
        _process.Kill(true);
        _process.WaitForExit();
    }

    /// <summary>Halts it and the processes that do its work where they are; only <see cref="Kill"/> comes after it.</summary>
    public void Pause()
    {
        // The server first, so that it starts no other runner meanwhile.
        foreach (int id in (int[])[_process.Id, .. Runners()])
            Process.Start("kill", ["-STOP", $"{id}"]).WaitForExit();
    }

    /// <summary>Ends the processes that do its work, as lack of memory would.</summary>
    /// <returns>How many there were.</returns>
    public int KillRunners()
    {
        int killed = 0;
        foreach (int id in Runners())
        {
            try
            {
                Process.GetProcessById(id).Kill();
                killed++;
            }
            catch (Exception e) when (e is ArgumentException or InvalidOperationException)
            {
                // It has ended meanwhile.
            }
        }

        return killed;
    }

    private List<int> Runners()
    {
        var found = new List<int>();
        foreach (string folder in Directory.EnumerateDirectories("/proc"))
        {
            if (!int.TryParse(Path.GetFileName(folder), out int id))
                continue;
            try
            {
                // The fourth field of stat is the parent's number, after the name in parentheses.
                string stat = File.ReadAllText(Path.Combine(folder, "stat"));
                if (stat[(stat.LastIndexOf(')') + 2)..].Split(' ')[1] != $"{_process.Id}")
                    continue;
                if (File.ReadAllText(Path.Combine(folder, "cmdline")).Contains("runner", StringComparison.Ordinal))
                    found.Add(id);
            }
            catch (IOException)
            {
                // It has ended meanwhile.
            }
        }

        return found;
    }

    /// <inheritdoc/>
    public void Dispose()
    {
        Kill();
        _process.Dispose();
    }

    /// <summary>The repository's folder.</summary>
    public static string Root()
    {
        string folder = AppContext.BaseDirectory;
        while (!File.Exists(Path.Combine(folder, "SteadyLintel.slnx")))
            folder = Path.GetDirectoryName(folder)
                ?? throw new InvalidOperationException("The repository was not found.");
        return folder;
    }

    private void Log(string? line)
    {
        lock (_log)
            if (line is not null)
                _log.Add(line);
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
