using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>The schema goes up and down with what is in it.</summary>
public class MigrationTests
{
    private static LintelDb Open(string connection)
    {
        var options = new DbContextOptionsBuilder<LintelDb>();
        LintelDbFactory.Configure(options, connection);
        return new LintelDb(options.Options);
    }

    [Fact]
    public async Task The_newest_model_is_what_the_migrations_make()
    {
        await using var db = Open(TestDatabase.New());
        await db.Database.MigrateAsync();
        Assert.False(db.Database.HasPendingModelChanges());
        Assert.Empty(await db.Database.GetPendingMigrationsAsync());
        Assert.Equal(db.Database.GetMigrations().Order(StringComparer.Ordinal), await db.Database.GetAppliedMigrationsAsync());
    }

    [Fact]
    public async Task Facets_are_counted_together_on_the_way_down_and_stay_on_the_way_up()
    {
        await using var db = Open(TestDatabase.New());
        await db.Database.MigrateAsync();
        var job = new Job { Id = Guid.NewGuid(), Code = "T1", Name = "Test" };
        var party = new Party { Id = Guid.NewGuid(), JobId = job.Id, Code = "ARC", Discipline = "Architecture", Colour = "#000000" };
        var source = new Source { Id = Guid.NewGuid(), JobId = job.Id, PartyId = party.Id, Name = "Main" };
        var delivery = new Delivery
        {
            Id = Guid.NewGuid(),
            SourceId = source.Id,
            FileName = "a.ifc",
            Length = 1,
            BlobId = Guid.NewGuid(),
            ReceivedAt = DateTime.UtcNow,
            State = DeliveryState.Ready
        };
        db.AddRange(job, party, source, delivery);
        foreach (var (shaped, drawn, count) in new[] { (true, false, 5), (false, true, 2), (false, false, 3) })
            db.Add(new FacetRow
            {
                DeliveryId = delivery.Id,
                Storey = 0,
                Class = "IfcGrid",
                Layer = "",
                Shaped = shaped,
                Drawn = drawn,
                Count = count
            });
        await db.SaveChangesAsync();
        var migrator = db.GetService<IMigrator>();

        await migrator.MigrateAsync("20261124041813_ShapedFacets");
        Assert.Equal([(true, 5), (false, 5)], await Rows(db));
        await migrator.MigrateAsync();
        Assert.Equal([(true, 5), (false, 5)], await Rows(db));
        Assert.All(await db.Facets.AsNoTracking().ToListAsync(), f => Assert.False(f.Drawn));
    }

    private static async Task<List<(bool, int)>> Rows(LintelDb db) =>
        [.. (await db.Database.SqlQuery<Counted>($"SELECT shaped, count FROM facets ORDER BY shaped DESC").ToListAsync())
            .Select(r => (r.Shaped, r.Count))];

    private sealed record Counted(bool Shaped, int Count);
}
