using System.IO.Enumeration;
using System.Text;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>What tables and property lists ask for, stated a second time from their words alone and looked up in the written file by
/// <see cref="PlainIfc"/>. The ledger cannot find a wrong expectation of its own; this can.</summary>
public class ExpectationTests(DemoModels demo) : IClassFixture<DemoModels>
{
    private static readonly string[] Elements =
    [
        "IFCWALL",
        "IFCWINDOW",
        "IFCSLAB",
        "IFCDOOR",
        "IFCFURNITURE",
        "IFCCOVERING",
        "IFCRAILING",
        "IFCMEMBER",
        "IFCBUILDINGELEMENTPROXY",
        "IFCFURNISHINGELEMENT",
    ];

    private static byte[] Bytes(string csv) => Encoding.UTF8.GetBytes(csv);

    private PlainIfc Came => field ??= PlainIfc.Read(demo.Bytes["ARC"]);

    private PlainIfc Written(OrderDocument document, OrderLibrary library)
    {
        var files = new MemoryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(document.ToOrder(library), [.. demo.Sources.Where(s => s.Party == "ARC")], files)
            {
                Job = "J",
                TimeStamp = "2026-01-01T00:00:00",
            }
        );
        Assert.True(result.Balanced, string.Join("\n", result.Reconciliation.Differences.Take(6)));
        return PlainIfc.Read(files.Read(files.Files.Keys.Single()).Span);
    }

    [Fact]
    public void Each_element_has_the_class_that_the_first_row_for_it_says()
    {
        // Class, property, value, and what becomes of it; each of these once in a table, in any order.
        (string Class, string Property, string Value, string To)[] all =
        [
            ("IfcWall", "Pset_WallCommon.FireRating", "*60*", "IfcCovering"),
            ("IfcWall", "Pset_WallCommon.LoadBearing", "T*", "IfcMember"),
            ("IfcWall", "", "", "IfcBuildingElementProxy"),
            ("IfcDoor", "Pset_DoorCommon.FireRating", "*30*", "do not send"),
            ("IfcDoor", "", "", "IfcBuildingElementProxy"),
            ("IfcFurniture", "", "", "do not send"),
            ("IfcWindow", "", "", "IfcMember"),
            ("IfcRailing", "", "", "do not send"),
            ("IfcCovering", "", "", "IfcBuildingElementProxy"),
        ];
        var properties = Came.Properties();
        var classes = Came.Classes(Elements);
        int changed = 0,
            gone = 0;
        for (int seed = 0; seed < 14; seed++)
        {
            var random = new Random(seed);
            var rows = all.OrderBy(_ => random.Next()).Take(1 + random.Next(5)).ToList();
            // A row behind one that takes all of its class would be refused.
            rows = [.. rows.Where((r, n) => !rows.Take(n).Any(b => b.Class == r.Class && b.Property.Length == 0))];
            string csv =
                "class,property,value,to\n"
                + string.Concat(rows.Select(r => $"{r.Class},{r.Property},{r.Value},{r.To}\n"));
            var library = new OrderLibrary
            {
                Classes = new Dictionary<string, ClassTable> { ["T"] = ClassTable.Read(TableFile.Read(Bytes(csv))) },
            };
            var written = Written(
                new OrderDocument
                {
                    Tables = new OrderTables { Classes = "T" },
                    Name = "{source}",
                },
                library
            );
            var found = written.Classes(Elements);

            bool Holds((string Class, string Property, string Value, string To) row, string id, string type) =>
                row.Class.Equals(type, StringComparison.OrdinalIgnoreCase)
                && (
                    row.Property.Length == 0
                    || properties[id]
                        .Any(p =>
                            $"{p.Set}.{p.Property}" == row.Property
                            && FileSystemName.MatchesSimpleExpression(
                                row.Value,
                                p.Value.Contains('\'', StringComparison.Ordinal) ? p.Value.Split('\'')[1]
                                    : p.Value.Contains(".T.", StringComparison.Ordinal) ? "True"
                                    : "False"
                            )
                        )
                );
            foreach (var (id, type) in classes)
            {
                string to = rows.FirstOrDefault(r => Holds(r, id, type)).To ?? type;
                if (to == "do not send")
                    gone++;
                else if (to != type)
                    changed++;
                Assert.True(
                    to == "do not send" ? !found.ContainsKey(id) : found.GetValueOrDefault(id) == to.ToUpperInvariant(),
                    $"seed {seed}\n{csv}\n{id} was {type}, is {found.GetValueOrDefault(id)}, not {to}"
                );
            }

            Assert.Empty(found.Keys.Except(classes.Keys));
            // ISO 16739-1, CorrectTypeAssigned of each class: an element's type is the type of its class.
            foreach (var relation in written.Of("IFCRELDEFINESBYTYPE"))
            {
                string type = written.Records[PlainIfc.Numbers(relation[5]).Single()].Class;
                Assert.All(PlainIfc.Numbers(relation[4]), n => Assert.Equal(type, written.Records[n].Class + "TYPE"));
            }
        }

        Assert.True(changed > 200 && gone > 200, $"{changed} changed, {gone} gone");
    }

    [Fact]
    public void Each_element_has_the_properties_that_the_list_lets_travel_under_its_names()
    {
        (string Set, string Property, string AsSet, string As)[] all =
        [
            ("Pset_WallCommon", "FireRating", "", "Class"),
            ("Pset_WallCommon", "LoadBearing", "", "Bears"),
            ("Pset_DoorCommon", "FireRating", "Doors", "DoorClass"),
            ("Pset_DoorCommon", "Self*", "Doors", ""),
            ("HW_*", "Occupants", "Rooms", ""),
            ("HW_Handover", "Cleaning zone", "Rooms", "Zone"),
            ("*", "IsExternal", "", ""),
            ("Pset_Wall*", "*", "", ""),
            ("*", "*", "", ""),
        ];
        var came = Came.Properties();
        var elements = Came.Classes([.. Elements, "IFCSPACE"]);
        int travelled = 0,
            stayed = 0,
            refused = 0;
        for (int seed = 0; seed < 18; seed++)
        {
            var random = new Random(seed);
            var rows = all.Take(7)
                .OrderBy(_ => random.Next())
                .Take(1 + random.Next(5))
                .Concat(
                    random.Next(4) == 0 ? [all[7]]
                    : random.Next(4) == 0 ? [all[8]]
                    : []
                )
                .ToList();
            string csv =
                "set,property,as set,as\n"
                + string.Concat(rows.Select(r => $"{r.Set},{r.Property},{r.AsSet},{r.As}\n"));
            var library = new OrderLibrary
            {
                Properties = new Dictionary<string, PropertyList>
                {
                    ["P"] = PropertyList.Read(TableFile.Read(Bytes(csv))),
                },
            };
            PlainIfc written;
            try
            {
                written = Written(
                    new OrderDocument
                    {
                        Properties = new OrderProperties { List = "P" },
                        Name = "{source}",
                    },
                    library
                );
            }
            catch (OrderException e) when (e.Message.Contains("under different sets", StringComparison.Ordinal))
            {
                // A set of a model cannot become two; lists that ask for it are refused before anything is written.
                refused++;
                continue;
            }

            var found = written.Properties();
            foreach (string id in elements.Keys)
            {
                var expected = new List<(string, string, string)>();
                foreach (var (set, property, value) in came[id])
                {
                    int row = rows.FindIndex(r =>
                        FileSystemName.MatchesSimpleExpression(r.Set, set)
                        && FileSystemName.MatchesSimpleExpression(r.Property, property)
                    );
                    if (row < 0)
                        stayed++;
                    else
                        expected.Add(
                            (
                                rows[row].AsSet.Length > 0 ? rows[row].AsSet : set,
                                rows[row].As.Length > 0 ? rows[row].As : property,
                                value
                            )
                        );
                }

                travelled += expected.Count;
                Assert.True(
                    expected.Order().SequenceEqual(found[id].Order()),
                    $"seed {seed}\n{csv}\n{id}: {string.Join(" ", expected.Order())}\n{string.Join(" ", found[id].Order())}"
                );
            }

            // ISO 16739-1, UniquePropertySetNames and UniquePropertyNames.
            Assert.All(found, f => Assert.Equal(f.Count(), f.Select(p => (p.Set, p.Property)).Distinct().Count()));
            foreach (
                var element in written
                    .Of("IFCRELDEFINESBYPROPERTIES")
                    .SelectMany(r =>
                        PlainIfc
                            .Numbers(r[4])
                            .Select(e => (e, Set: written.Records[PlainIfc.Numbers(r[5]).Single()].Arguments[2]))
                    )
                    .GroupBy(p => p.e)
            )
                Assert.Equal(element.Count(), element.Select(p => p.Set).Distinct().Count());
        }

        Assert.True(
            travelled > 500 && stayed > 500 && refused < 9,
            $"{travelled} travelled, {stayed} stayed, {refused} refused"
        );
    }

    [Fact]
    public void Storeys_types_and_materials_have_the_names_of_the_table()
    {
        string[] kinds = ["IFCBUILDINGSTOREY", "IFCWALLTYPE", "IFCWINDOWTYPE", "IFCMATERIAL"];
        static string Name((string Class, string[] Arguments) r) =>
            PlainIfc.Text(r.Arguments[r.Class == "IFCMATERIAL" ? 0 : 2]);
        var names = Came
            .Records.Values.Where(r => kinds.Contains(r.Class))
            .Select(r =>
                (
                    Kind: r.Class switch
                    {
                        "IFCBUILDINGSTOREY" => "storey",
                        "IFCMATERIAL" => "material",
                        _ => "type",
                    },
                    Name: Name(r)
                )
            )
            .Distinct()
            .ToList();
        var chosen = names.Where((_, n) => n % 3 != 2).ToList();
        string csv = "kind,from,to\n" + string.Concat(chosen.Select((c, n) => $"{c.Kind},\"{c.Name}\",Their {n}\n"));
        var library = new OrderLibrary
        {
            Names = new Dictionary<string, NameTable> { ["N"] = NameTable.Read(TableFile.Read(Bytes(csv))) },
        };
        var written = Written(
            new OrderDocument
            {
                Tables = new OrderTables { Names = "N" },
                Name = "{source}",
            },
            library
        );
        var expected = Came
            .Records.Values.Where(r => kinds.Contains(r.Class))
            .Select(r =>
            {
                string kind = r.Class switch
                {
                    "IFCBUILDINGSTOREY" => "storey",
                    "IFCMATERIAL" => "material",
                    _ => "type",
                };
                int at = chosen.IndexOf((kind, Name(r)));
                return (r.Class, at < 0 ? Name(r) : $"Their {at}");
            })
            .Order();
        Assert.True(chosen.Count > 5);
        Assert.Equal(
            expected,
            written.Records.Values.Where(r => kinds.Contains(r.Class)).Select(r => (r.Class, Name(r))).Order()
        );
    }
}
