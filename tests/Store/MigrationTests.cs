using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>The schema is brought up to date with what is in it.</summary>
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
        Assert.Equal(
            db.Database.GetMigrations().Order(StringComparer.Ordinal),
            await db.Database.GetAppliedMigrationsAsync()
        );
    }

    [Fact]
    public async Task What_was_received_before_deliveries_and_revisions_were_two_things_is_there_after_the_upgrade()
    {
        await using var db = Open(TestDatabase.New());
        await db.GetService<IMigrator>().MigrateAsync("20261128074716_StoredSelection");
        await db.Database.ExecuteSqlRawAsync(
            """
            INSERT INTO jobs (id, code, name, description) VALUES ('00000000-0000-0000-0000-000000000001', 'T1', 'Test', '');
            INSERT INTO parties (id, job_id, code, discipline, colour)
              VALUES ('00000000-0000-0000-0000-000000000002', '00000000-0000-0000-0000-000000000001', 'ARC', 'Architecture', '#000000');
            INSERT INTO sources (id, job_id, party_id, name)
              VALUES ('00000000-0000-0000-0000-000000000003', '00000000-0000-0000-0000-000000000001', '00000000-0000-0000-0000-000000000002', 'Main');
            INSERT INTO deliveries (id, source_id, file_name, length, blob_id, received_at, received_by, state, progress, cancel_requested,
              sentence, revision, report, drawing, elements, findings)
            SELECT ('00000000-0000-0000-0000-00000000001' || n)::uuid, '00000000-0000-0000-0000-000000000003', n || '.ifc', 1,
              gen_random_uuid(), now(), gen_random_uuid(), CASE WHEN n < 3 THEN 7 ELSE 9 END, 1, false, '', CASE WHEN n < 3 THEN n END,
              CASE WHEN n = 1 THEN '{{"schema":"IFC4"}}'::jsonb END, CASE WHEN n = 2 THEN '{{"form":"dwg"}}' END, n * 10, n
            FROM generate_series(1, 3) AS n;
            INSERT INTO facets (delivery_id, storey, class, layer, shaped, drawn, count)
              VALUES ('00000000-0000-0000-0000-000000000011', 0, 'IfcGrid', '', true, false, 5),
                ('00000000-0000-0000-0000-000000000011', 0, 'IfcWall', '', true, false, 6);
            """
        );

        await db.Database.MigrateAsync();

        var revisions = await db.Revisions.AsNoTracking().Include(r => r.Delivery).OrderBy(r => r.Number).ToListAsync();
        Assert.Equal(
            [(1, RevisionKind.Model, 10, 1, "1.ifc"), (2, RevisionKind.Drawing, 20, 2, "2.ifc")],
            revisions.Select(r => (r.Number, r.Kind, r.Elements, r.Findings, r.Delivery.FileName))
        );
        Assert.Contains("IFC4", revisions[0].Report, StringComparison.Ordinal);
        Assert.Contains("dwg", revisions[1].Report, StringComparison.Ordinal);
        Assert.Equal(3, await db.Deliveries.CountAsync());
        var facets = await db.Facets.AsNoTracking().OrderBy(f => f.Number).ToListAsync();
        Assert.Equal([(0, "IfcGrid", 5), (1, "IfcWall", 6)], facets.Select(f => (f.Number, f.Class, f.Count)));
        Assert.All(facets, f => Assert.Equal(revisions[0].Id, f.RevisionId));
    }

    [Fact]
    public async Task Steps_of_drawings_become_a_document_beside_their_setting_out()
    {
        await using var db = Open(TestDatabase.New());
        await db.GetService<IMigrator>().MigrateAsync("20261201014129_ProgramsAndServers");
        await db.Database.ExecuteSqlRawAsync(
            """
            INSERT INTO jobs (id, code, name, description) VALUES ('00000000-0000-0000-0000-000000000001', 'T1', 'Test', '');
            INSERT INTO parties (id, job_id, code, discipline, colour)
              VALUES ('00000000-0000-0000-0000-000000000002', '00000000-0000-0000-0000-000000000001', 'ARC', 'Architecture', '#000000');
            INSERT INTO sources (id, job_id, party_id, name)
              VALUES ('00000000-0000-0000-0000-000000000003', '00000000-0000-0000-0000-000000000001', '00000000-0000-0000-0000-000000000002', 'Main');
            INSERT INTO setting_outs (id, source_id, from_revision, document, accepted_at, accepted_by)
            SELECT gen_random_uuid(), '00000000-0000-0000-0000-000000000003', n, d::jsonb, now(), gen_random_uuid()
            FROM unnest(ARRAY['{{"version":1,"steps":[{{"do":"purge"}}]}}', '{{"version":1,"shift":[1,2,3]}}', '{{"version":1,"steps":[]}}'])
              WITH ORDINALITY AS t (d, n);
            """
        );

        await db.Database.MigrateAsync();

        var rows = await db.SettingOuts.AsNoTracking().OrderBy(s => s.FromRevision).ToListAsync();
        Assert.Equal(
            ["purge", "", ""],
            rows.Select(r => string.Join(' ', PreparationDocument.Read(r.Preparation).Steps.Select(s => s.Do)))
        );
        Assert.All(rows, r => SettingOutDocument.Read(r.Document));
        Assert.Equal(2, SettingOutDocument.Read(rows[1].Document).Shift[1]);
    }
}
