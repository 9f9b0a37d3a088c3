using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

/// <summary>What is stored of each element is what reading it alone gives, value by value.</summary>
public class StoredElementTests(JobFixture job) : IClassFixture<JobFixture>
{
    [Theory]
    [InlineData("ARC")]
    [InlineData("SRV")]
    [InlineData("STR")]
    public async Task Every_element_comes_back_as_it_was_read(string party)
    {
        using var bytes = new MemoryStream();
        HeronWharf.Models.First(m => m.Party == party).Write(bytes);
        var id = await job.DeliverAsync(party, $"Stored {party}", bytes.ToArray());
        var snapshot = ModelSnapshot.Open(bytes.ToArray());
        await using var db = job.CreateDbContext();
        var rows = await db.Elements.AsNoTracking().Where(e => e.RevisionId == id).OrderBy(e => e.Number).ToListAsync();
        Assert.Equal(snapshot.Elements.Count, rows.Count);
        foreach (var (element, row) in snapshot.Elements.Zip(rows))
        {
            var read = ElementFacts.Read(snapshot, element);
            // The unit that a value names itself is an instance of the file: nothing shows it.
            read = read with
            {
                Sets =
                [
                    .. read.Sets.Select(s =>
                        s with
                        {
                            Properties = [.. s.Properties.Select(p => p with { OwnUnit = -1 })],
                        }
                    ),
                ],
            };
            Assert.Equal(
                JsonSerializer.Serialize(read, IntakeStore.Json),
                JsonSerializer.Serialize(await IntakeStore.FactsAsync(db, row, default), IntakeStore.Json)
            );
            Assert.Equal(
                (element.GlobalId, element.Class, element.Name, element.Storey),
                (row.GlobalId, row.Class, row.Name, row.Storey)
            );
            Assert.Equal(snapshot.GroupNames(element), row.Groups);
            Assert.Equal(snapshot.ClassificationNames(element), row.Classifications);
            Assert.Equal(snapshot.Wholes(element).Select(w => w.Number), row.Wholes);
            Body(snapshot, element, row);
        }
    }

    // Computed here from the shape alone, triangle by triangle, as it lies in the source.
    private static void Body(ModelSnapshot snapshot, ModelElement element, ElementRow row)
    {
        var shape = snapshot.Shapes.Read(element.Index);
        if (shape is not { Parts.Count: > 0 })
        {
            Assert.Null(row.Box);
            return;
        }

        var box = shape.ToWorld().Bounds();
        Assert.Equal(
            [box.Min.X, box.Min.Y, box.Min.Z, box.Max.X, box.Max.Y, box.Max.Z],
            row.Box!.Select(v => v),
            (a, b) => Math.Abs(a - b) < 1e-9
        );
        Mesh[] local = [.. shape.Parts.Select(p => p.Mesh.Map(p.Frame))];
        double volume = local.Select(MassProperties.Of).Where(m => m.Closed).Sum(m => m.Volume);
        Assert.Equal(volume, row.Volume, 9);
        Assert.Equal(local.Sum(m => MassProperties.Of(m).Area), row.Area, 7);
        Assert.Equal(BodyBox.Longest(local), row.Size!.Value, 9);
        double? bearing = PlanBearing.Of(shape.Parts.Select(p => p.Mesh.Map(shape.World.Compose(p.Frame))));
        Assert.Equal(bearing is null, row.Bearing is null);
        if (bearing is { } degrees)
            Assert.Equal(0, Math.Abs(Math.IEEERemainder(degrees - row.Bearing!.Value, 180)), 5);
    }
}
