using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using Microsoft.EntityFrameworkCore.Storage;

namespace SteadyLintel.Store;

/// <summary>Options shared by the application, its tests and the migration tool.</summary>
public sealed class LintelDbFactory : IDesignTimeDbContextFactory<LintelDb>
{
    /// <summary>Configures a context for a database.</summary>
    public static void Configure(DbContextOptionsBuilder options, string connection) =>
        options
            .UseNpgsql(connection)
            .UseSnakeCaseNamingConvention()
            // Runs of deleted orders stay: who needs them says so (IgnoreQueryFilters).
            .ConfigureWarnings(w =>
                w.Ignore(
                    Microsoft
                        .EntityFrameworkCore
                        .Diagnostics
                        .CoreEventId
                        .PossibleIncorrectRequiredNavigationWithQueryFilterInteractionWarning
                )
            );

    /// <summary>Makes the database if there is none, and brings its tables up to date.</summary>
    /// <remarks>What is not there yet is asked for, not tried: a first start logs no error.</remarks>
    public static async Task BringUpToDateAsync(LintelDb db, CancellationToken cancel = default)
    {
        var creator = db.GetService<IRelationalDatabaseCreator>();
        if (!await creator.ExistsAsync(cancel))
            await creator.CreateAsync(cancel);
        await db.GetService<IHistoryRepository>().CreateIfNotExistsAsync(cancel);
        await db.Database.MigrateAsync(cancel);
    }

    /// <inheritdoc/>
    public LintelDb CreateDbContext(string[] args)
    {
        var options = new DbContextOptionsBuilder<LintelDb>();
        Configure(options, "Host=127.0.0.1;Database=design");
        return new LintelDb(options.Options);
    }
}
