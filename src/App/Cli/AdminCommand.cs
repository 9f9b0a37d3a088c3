using System.CommandLine;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Cli;

/// <summary><c>lintel admin …</c>: what runs a site from its machine, on the database itself.</summary>
internal static class AdminCommand
{
    private const string ToFolder = "folder",
        ToDatabase = "database";

    private static readonly Option<string?> Connection = new("--connection")
    {
        Description = "The Npgsql connection string; ConnectionStrings__Lintel of the environment when not given.",
        Recursive = true,
    };

    private static readonly Option<string?> Folder = new("--originals")
    {
        Description = "The folder that originals are stored in; Originals__Folder of the environment when not given.",
        Recursive = true,
    };

    private static readonly Option<bool> Json = new("--json") { Description = "Machine output.", Recursive = true };

    public static Command Create()
    {
        var email = new Argument<string>("EMAIL") { Description = "The account's e-mail address." };
        return new Command(
            "admin",
            "Looks after a site: its accounts, jobs and work, and whether all contents are what they were."
        )
        {
            Connection,
            Folder,
            Json,
            Verb("accounts", "Lists the accounts.", AccountsAsync),
            Verb("jobs", "Lists the jobs.", JobsAsync),
            Verb("work", "Lists work that is under way, and what failed last.", WorkAsync),
            Verb(
                "check",
                "Reads every content again and compares its hash; exit 4 when one is not what it was.",
                CheckAsync
            ),
            Verb(
                "move-originals",
                "Moves originals and files of transmittals into the folder, or back into the database.",
                MoveAsync,
                new Argument<string>("TO") { Description = "folder or database" }.AcceptOnlyFromAmong(
                    ToFolder,
                    ToDatabase
                )
            ),
            Verb("sweep", "Removes contents in the folder that nothing speaks of any more.", SweepAsync),
            Verb("status", "Shows the site status: queue, failures, space.", StatusAsync),
            Units(),
            Verb(
                "end-sessions",
                "Signs an account out everywhere.",
                (db, parsed) => EndSessionsAsync(db, parsed.GetValue(email)!),
                email
            ),
            Verb(
                "administrator",
                "Makes an account an administrator.",
                (db, parsed) => PromoteAsync(db, parsed.GetValue(email)!),
                email
            ),
        };
    }

    private static Command Units()
    {
        var into = new Argument<string>("FOLDER") { Description = "Where the files are written." };
        var program = new Option<string>("--program")
        {
            Description = "Where the published program is.",
            DefaultValueFactory = _ => "/opt/steady-lintel",
        };
        var user = new Option<string>("--user")
        {
            Description = "The user it runs as.",
            DefaultValueFactory = _ => "lintel",
        };
        var host = new Option<string>("--host")
        {
            Description = "The name that the site is asked by.",
            Required = true,
        };
        var command = new Command("units", "Writes units for systemd, their settings and a proxy's configuration.")
        {
            into,
            program,
            user,
            host,
        };
        command.SetAction(parsed =>
            Output.Guard(() =>
            {
                string folder = Directory.CreateDirectory(parsed.GetValue(into)!).FullName;
                foreach (
                    var (name, text) in ServiceUnits.Write(
                        parsed.GetValue(program)!,
                        parsed.GetValue(user)!,
                        parsed.GetValue(host)!,
                        "/usr/bin/dotnet"
                    )
                )
                {
                    File.WriteAllText(Path.Combine(folder, name), text);
                    Console.Out.WriteLine(Path.Combine(folder, name));
                }

                return ExitCodes.Done;
            })
        );
        return command;
    }

    private static Command Verb(
        string name,
        string what,
        Func<LintelDb, ParseResult, Task<int>> run,
        params Argument[] arguments
    )
    {
        var command = new Command(name, what);
        foreach (var argument in arguments)
            command.Add(argument);
        command.SetAction(parsed => Output.Guard(() => WithDatabase(parsed, run)));
        return command;
    }

    private static int WithDatabase(ParseResult parsed, Func<LintelDb, ParseResult, Task<int>> run)
    {
        if (
            (parsed.GetValue(Connection) ?? Environment.GetEnvironmentVariable("ConnectionStrings__Lintel"))
            is not { Length: > 0 } connection
        )
            throw new Exchange.OrderException("Say which database: --connection, or ConnectionStrings__Lintel.");
        var options = new DbContextOptionsBuilder<LintelDb>();
        LintelDbFactory.Configure(options, connection);
        string? folder = parsed.GetValue(Folder) ?? Environment.GetEnvironmentVariable("Originals__Folder");
        using var db = new LintelDb(options.Options, folder is { Length: > 0 } ? new BlobFolder(folder) : null);
        try
        {
            return run(db, parsed).GetAwaiter().GetResult();
        }
        catch (Exception e)
            when (e
                    is System.Data.Common.DbException
                        or InvalidOperationException { InnerException: System.Data.Common.DbException }
            )
        {
            Console.Error.WriteLine($"The database does not answer: {(e.InnerException ?? e).Message}");
            return ExitCodes.Unreadable;
        }
    }

    private static async Task<int> AccountsAsync(LintelDb db, ParseResult parsed)
    {
        var rows = await db
            .Users.AsNoTracking()
            .OrderBy(u => u.Email)
            .Select(u => new
            {
                u.Email,
                Name = u.DisplayName,
                Administrator = u.IsAdministrator,
                SecondFactor = u.TwoFactorEnabled,
                Jobs = db.Memberships.Count(m => m.UserId == u.Id),
                Sessions = db.Sessions.Count(s => s.UserId == u.Id && s.EndedAt == null),
            })
            .ToListAsync();
        return Write(parsed, rows, r =>
            $"{r.Email}  {r.Name}{(r.Administrator ? ", administrator" : "")}{(r.SecondFactor ? ", second factor" : "")}, "
            + $"{r.Jobs} jobs, {r.Sessions} sessions"
        );
    }

    private static async Task<int> JobsAsync(LintelDb db, ParseResult parsed)
    {
        var rows = await db
            .Jobs.AsNoTracking()
            .OrderBy(j => j.Code)
            .Select(j => new
            {
                j.Code,
                j.Name,
                j.ArchivedAt,
                Members = j.Members.Count,
                Sources = j.Sources.Count,
                Revisions = j.Sources.Sum(s => s.Revisions.Count),
                Bytes = db.Deliveries.Where(d => d.Source.JobId == j.Id && d.Revision != null).Sum(d => (long?)d.Length)
                    ?? 0,
            })
            .ToListAsync();
        return Write(parsed, rows, r =>
            $"{r.Code}  {r.Name}{(r.ArchivedAt is null ? "" : ", archived")}, {r.Members} people, {r.Sources} sources, "
            + $"{r.Revisions} revisions, {r.Bytes / 1_000_000} MB of originals"
        );
    }

    private static async Task<int> WorkAsync(LintelDb db, ParseResult parsed)
    {
        var rows = await db
            .Deliveries.AsNoTracking()
            .Where(d =>
                (d.State > DeliveryState.Receiving && d.State < DeliveryState.Ready) || d.State == DeliveryState.Refused
            )
            .OrderByDescending(d => d.ReceivedAt)
            .Take(50)
            .Select(d => new
            {
                d.Id,
                d.FileName,
                State = d.State.ToString(),
                d.ReceivedAt,
                d.Beat,
                d.Attempts,
                d.Deaths,
                d.Sentence,
            })
            .ToListAsync();
        return Write(parsed, rows, r =>
            $"{r.ReceivedAt:yyyy-MM-dd HH:mm}  {r.State}  {r.FileName}  {r.Sentence}"
            + (r.Attempts + r.Deaths > 0 ? $" ({r.Attempts} attempts, {r.Deaths} deaths)" : "")
        );
    }

    private static async Task<int> CheckAsync(LintelDb db, ParseResult parsed)
    {
        var result = await Integrity.CheckAsync(db, CancellationToken.None);
        if (parsed.GetValue(Json))
            Output.WritePage(result);
        else
        {
            foreach (string fault in result.Faults)
                Console.Out.WriteLine(fault);
            Console.Out.WriteLine(
                $"{result.Contents} contents, {result.Bytes / 1_000_000} MB read: {(result.Faults.Count == 0 ? "all as they were" : $"{result.Faults.Count} are not")}."
            );
        }

        return result.Faults.Count == 0 ? ExitCodes.Done : ExitCodes.NotBalanced;
    }

    private static async Task<int> MoveAsync(LintelDb db, ParseResult parsed)
    {
        if (db.Folder is null)
            throw new Exchange.OrderException("Say which folder: --originals, or Originals__Folder.");
        bool toFolder = parsed.GetValue<string>("TO") == ToFolder;
        int moved = await db.Blobs.MoveAsync(toFolder, CancellationToken.None);
        await NoteAsync(db, "moved originals into", toFolder ? "the folder" : "the database");
        Console.Out.WriteLine($"{moved} pieces were moved into the {(toFolder ? ToFolder : ToDatabase)}.");
        return ExitCodes.Done;
    }

    private static async Task<int> SweepAsync(LintelDb db, ParseResult parsed)
    {
        Console.Out.WriteLine($"{await db.Blobs.SweepAsync(CancellationToken.None)} contents were removed.");
        return ExitCodes.Done;
    }

    private static async Task<int> StatusAsync(LintelDb db, ParseResult parsed)
    {
        var state = await SiteState.LoadAsync(db, CancellationToken.None);
        if (parsed.GetValue(Json))
            Output.WritePage(state);
        else
        {
            Console.Out.WriteLine(
                $"{state.Queue.Length} works wait or are under way, the oldest for {state.Queue.Oldest.TotalSeconds:0} s"
            );
            Console.Out.WriteLine($"{state.Accounts} accounts, {state.Sessions} browsers signed in, {state.Jobs} jobs");
            Console.Out.WriteLine(
                $"{state.Originals / 1_000_000} MB of originals, {state.HandedOver / 1_000_000} MB handed over, database {state.Database / 1_000_000} MB"
            );
            Console.Out.WriteLine($"{state.Mails.Waiting} mails wait, {state.Mails.Failing} of them failed before");
            foreach (var failed in state.Failed)
                Console.Out.WriteLine(
                    $"{failed.At:yyyy-MM-dd HH:mm}  {failed.Job}  {failed.Kind} {failed.Name}: {failed.Sentence}"
                );
        }

        return ExitCodes.Done;
    }

    private static async Task<int> EndSessionsAsync(LintelDb db, string email)
    {
        string normal = email.ToUpperInvariant();
        int ended = await db
            .Sessions.Where(s =>
                s.EndedAt == null && db.Users.Any(u => u.Id == s.UserId && u.NormalizedEmail == normal)
            )
            .ExecuteUpdateAsync(u => u.SetProperty(s => s.EndedAt, DateTime.UtcNow));
        await NoteAsync(db, $"ended {ended} sessions of", email);
        Console.Out.WriteLine($"{ended} sessions of {email} are ended.");
        return ExitCodes.Done;
    }

    private static async Task<int> PromoteAsync(LintelDb db, string email)
    {
        string normal = email.ToUpperInvariant();
        int made = await db
            .Users.Where(u => u.NormalizedEmail == normal)
            .ExecuteUpdateAsync(u => u.SetProperty(x => x.IsAdministrator, true));
        if (made == 0)
            throw new Exchange.OrderException($"There is no account {email}.");
        await NoteAsync(db, "made administrator:", email);
        Console.Out.WriteLine($"{email} is an administrator.");
        return ExitCodes.Done;
    }

    private static Task NoteAsync(LintelDb db, string did, string subject)
    {
        db.Note(Actor.Program, null, did, subject + ", from the terminal");
        return db.SaveChangesAsync();
    }

    private static int Write<T>(ParseResult parsed, IReadOnlyList<T> rows, Func<T, string> line)
    {
        if (parsed.GetValue(Json))
            Output.WritePage(rows);
        else
            foreach (var row in rows)
                Console.Out.WriteLine(line(row));
        return ExitCodes.Done;
    }
}
