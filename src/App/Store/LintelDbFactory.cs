using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;

namespace SteadyLintel.Store;

/// <summary>Options shared by the application, its tests and the migration tool.</summary>
public sealed class LintelDbFactory : IDesignTimeDbContextFactory<LintelDb>
{
    /// <summary>Configures a context for a database.</summary>
    public static void Configure(DbContextOptionsBuilder options, string connection) =>
        options.UseNpgsql(connection).UseSnakeCaseNamingConvention();

    /// <inheritdoc/>
    public LintelDb CreateDbContext(string[] args)
    {
        var options = new DbContextOptionsBuilder<LintelDb>();
        Configure(options, "Host=127.0.0.1;Database=design");
        return new LintelDb(options.Options);
    }
}
