using SteadyLintel.Demo;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>web-ifc reads amended models in every schema and agrees: values, types, units, names, places, volumes.</summary>
public class AmendmentOutsideTests
{
    private static readonly DateTime Noon = new(2026, 11, 30, 12, 0, 0, DateTimeKind.Utc);

    private static ModelSnapshot Demo(string party, string? schema)
    {
        using var stream = new MemoryStream();
        HeronWharf.Models.Single(m => m.Party == party).Write(stream);
        var model = ModelSnapshot.Open(stream.ToArray());
        if (schema is null)
            return model;
        using var folder = new TestFolder();
        using var files = new Files.FolderFileSet(folder.Path);
        var order = new HandoverOrder(Selection.All, TargetCatalog.Ifc, false, null) { Schema = schema };
        var result = HandoverRunner.Run(new HandoverRun(order, [new HandoverSource(party, party, model)], files));
        files.Commit();
        return ModelSnapshot.Open(File.ReadAllBytes(folder.File(result.Files[0].Name)));
    }

    [Theory]
    [InlineData("IFC2X3")]
    [InlineData("IFC4")]
    [InlineData("IFC4X3")]
    public void Values_names_and_places_are_found_by_another_reader(string schema)
    {
        var model = Demo("ARC", schema);
        string door = model.Elements.First(e => e.Class == "IfcDoor").GlobalId,
            wall = model.Elements.First(e => e.Class == "IfcWall").GlobalId;
        Amendment Value(string name, string value, string type, string? unit = null) =>
            new()
            {
                Element = door,
                Set = "Schedule",
                Name = name,
                Value = value,
                Type = type,
                Unit = unit,
            };
        var amended = AmendedModel.Of(
            model,
            [
                Value("Label", "EI 60", "label"),
                Value("Width", "1.2 m", "length"),
                Value("Height", "4'-2\"", "length"),
                Value("Kept", "2.5", "length", "m"),
                Value("Leaves", "2", "integer"),
                Value("Ratio", "0.5", "real"),
                Value("External", "no", "boolean"),
                Value("Nothing", "", "label"),
                new Amendment
                {
                    Element = door,
                    Do = "name",
                    Value = "D-101 ü",
                },
                new Amendment
                {
                    Element = wall,
                    Do = "move",
                    X = 1.5,
                },
            ],
            Noon
        );
        Assert.True(AmendmentLedger.Of(amended).Balanced);
        using var folder = new TestFolder();
        string path = folder.File("amended.ifc"),
            before = folder.File("before.ifc");
        File.WriteAllBytes(path, amended.Snapshot.Model.File.Bytes.ToArray());
        File.WriteAllBytes(before, model.Model.File.Bytes.ToArray());
        // Every element as we read it is as they read it.
        IfcOutsideTests.Compare(path);
        var theirs = OutsideReaders.WebIfc([path, before]);
        System.Text.Json.JsonElement Of(int file, string id) =>
            theirs[file].SkipLast(1).First(e => e.GetProperty("globalId").GetString() == id);
        var found = Of(0, door);
        Assert.Equal("D-101 ü", found.GetProperty("name").GetString());
        var values = found
            .GetProperty("properties")
            .EnumerateArray()
            .Select(p => p.GetString()!)
            .Where(p => p.StartsWith("Schedule.", StringComparison.Ordinal))
            .ToList();
        foreach (
            string value in (string[])
                [
                    "Schedule.Label=EI 60",
                    "Schedule.Width=1200",
                    "Schedule.Height=1270",
                    "Schedule.Kept=2.5",
                    "Schedule.Leaves=2",
                    "Schedule.Ratio=0.5",
                ]
        )
            Assert.Contains(value, values);
        Assert.Contains(values, v =>
            v is "Schedule.External=F" or "Schedule.External=false" or "Schedule.External=.F."
        );
        Assert.DoesNotContain(values, v => v.StartsWith("Schedule.Nothing", StringComparison.Ordinal));
        Assert.Equal(
            1.5,
            Of(0, wall).GetProperty("min")[0].GetDouble() - Of(1, wall).GetProperty("min")[0].GetDouble(),
            4
        );
    }

    // The section times the length, by the extrusion itself; and what another reader measures.
    [Fact]
    public void A_stretched_column_has_the_volume_of_its_section_times_its_length()
    {
        var model = Demo("STR", null);
        var column = model.Elements.First(e => e.Class == "IfcColumn");
        var amended = AmendedModel.Of(
            model,
            [
                new Amendment
                {
                    Element = column.GlobalId,
                    Do = "length",
                    Start = 0.25,
                    End = 0.5,
                },
            ],
            Noon
        );
        Assert.Equal(AmendmentOutcome.Applied, amended.Results[0].Outcome);
        using var folder = new TestFolder();
        string before = folder.File("before.ifc"),
            after = folder.File("after.ifc");
        File.WriteAllBytes(before, model.Model.File.Bytes.ToArray());
        File.WriteAllBytes(after, amended.Snapshot.Model.File.Bytes.ToArray());
        var theirs = OutsideReaders.WebIfc([before, after]);
        (double Volume, double Low, double High) Of(int file)
        {
            var e = theirs[file].SkipLast(1).First(x => x.GetProperty("globalId").GetString() == column.GlobalId);
            return (
                Math.Abs(e.GetProperty("volume").GetDouble()),
                e.GetProperty("min")[2].GetDouble(),
                e.GetProperty("max")[2].GetDouble()
            );
        }

        var (was, now) = (Of(0), Of(1));
        double length = was.High - was.Low;
        Assert.Equal((length + 0.75) / length, now.Volume / was.Volume, 4);
        Assert.Equal((was.Low - 0.25, was.High + 0.5), (Math.Round(now.Low, 4), Math.Round(now.High, 4)), new Near());
    }

    private sealed class Near : IEqualityComparer<(double, double)>
    {
        public bool Equals((double, double) x, (double, double) y) =>
            Math.Abs(x.Item1 - y.Item1) < 1e-3 && Math.Abs(x.Item2 - y.Item2) < 1e-3;

        public int GetHashCode((double, double) obj) => 0;
    }
}
