using System.Text;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>Any order that can be run balances, is the same order as a document, and gives the same bytes again.</summary>
public class RandomOrderTests(ITestOutputHelper output)
{
    private static readonly HandoverSource[] Sources =
    [
        new("SNK", "sink", ModelSnapshot.Open(ModelSink.Bytes()), Geometry.Frame.Identity) { Revision = 3 },
        new("OTH", "other", ModelSnapshot.Open(ModelSink.Other()), FrameRewrite.Move(new Geometry.Vec3(10, -5, 2), 30))
        {
            Revision = 1,
        },
    ];

    private static readonly OrderLibrary Library = new()
    {
        Layers = new Dictionary<string, LayerTable>
        {
            ["L"] = Read(LayerTable.Read, "class,layer,colour,line type,weight\nIfcWall,W,1,DASHED,0.35\n*,X,,,\n"),
        },
        Classes = new Dictionary<string, ClassTable>
        {
            ["C"] = Read(
                ClassTable.Read,
                "class,property,value,to\nIfcWall,Set.Pressure,,IfcCovering\nIfcDoor,,,do not send\n"
            ),
        },
        Names = new Dictionary<string, NameTable>
        {
            ["N"] = Read(NameTable.Read, "kind,from,to\nstorey,One,01\nmaterial,Brick,M1\ntype,T,T1\nlayer,A-WALL,W\n"),
        },
        Properties = new Dictionary<string, PropertyList>
        {
            ["P"] = Read(
                PropertyList.Read,
                "set,property,as set,as,blanks,unit\nSet,Pressure,Mine,Bar,,\nSet,Length,,,,in\nPset_*,*,,,out,\n"
            ),
        },
        Sets = new Dictionary<string, SetDocument>
        {
            ["S"] = SetDocument.Of(["0000000000000000000020", "1000000000000000000021"]),
        },
        Views = new Dictionary<string, ViewDocument>
        {
            ["V"] = new()
            {
                Cut = [-1, 3],
                Off = new ViewOff { Class = ["IfcSpace"], Storey = ["Two"] },
                Hidden = ["0000000000000000000021"],
            },
        },
    };

    private static T Read<T>(Func<TableRows, T> read, string csv) => read(TableFile.Read(Encoding.UTF8.GetBytes(csv)));

    private static readonly OrderRule[] Rules =
    [
        new() { What = "class", Are = ["IfcWall", "IfcDoor", "IfcSpace"] },
        new() { What = "class", Are = ["IfcWall.SOLIDWALL"] },
        new() { What = "storey", Are = ["One"] },
        new() { What = "layer", Are = ["A-WALL"] },
        new()
        {
            What = "type",
            Is = "like",
            Are = ["T*"],
        },
        new() { What = "material", Are = [""] },
        new() { What = "party", Are = ["SNK"] },
        new() { What = "source", Are = ["other"] },
        new()
        {
            What = "group",
            Is = "like",
            Are = ["*"],
        },
        new() { What = "size", Are = ["", "1.5"] },
        new() { What = "height", Are = ["0", "2"] },
        new() { What = "bearing", Are = ["80", "100"] },
        new() { What = "set", Are = ["S"] },
        new() { What = "view", Are = ["V"] },
        new()
        {
            What = "property",
            Key = "Set.Pressure",
            Is = "between",
            Are = ["0", "20"],
        },
        new()
        {
            What = "property",
            Key = "Set.Pressure",
            Is = "missing",
        },
        new() { What = "element", Are = ["0000000000000000000020"] },
        new()
        {
            What = "class",
            Is = "exactly",
            Are = ["IfcSite"],
        },
    ];

    private static OrderDocument Order(Random random)
    {
        T One<T>(params T[] of) => of[random.Next(of.Length)];
        OrderInto[] forms =
        [
            new(),
            new() { Schema = "IFC2X3" },
            new() { Schema = "IFC4X3" },
            new() { Merge = true },
            new() { File = "ifczip" },
            new() { File = "dxf" },
            View(random, "plan"),
            View(random, "section"),
            View(random, "plan"),
            new() { File = "dwg", As = "solids" },
            new()
            {
                File = "dxf",
                As = "plan",
                Cut = 0.5,
            },
            new() { File = "dxf", As = "skins" },
            new() { File = "glb" },
            new() { File = "stl", As = One("text", "binary") },
            new() { File = "obj" },
        ];
        var into = One(forms);
        into = into with { Detail = One(null, null, "coarse", into.As is "plan" or "section" ? null : "boxes") };
        bool model = into.File is "ifc" or "ifczip",
            drawing = into.File is "dxf" or "dwg";
        return new OrderDocument
        {
            To = One("", "OTH"),
            Rules =
            [
                .. Enumerable
                    .Range(0, random.Next(4))
                    .Select(_ => One(Rules) with { Do = One("only", "without", "with") }),
            ],
            Into = into,
            Unit = One(null, "mm", "ft", "in"),
            Frame = One("source", "job", "local", "1,2,3,15"),
            Split = One("none", "storey", "class", "source", "storey+party", "element", "assembly", "group", "type"),
            Storeys = model ? One(null, "job") : null,
            Tables = new OrderTables
            {
                Layers = drawing ? One(null, "L") : null,
                Classes = model ? One(null, "C") : null,
                Names = model ? One(null, "N") : null,
            },
            Properties = One(
                null,
                new OrderProperties
                {
                    List = One(null, "P"),
                    Blanks = One("keep", "out"),
                    Computed = One<bool?>(null, true),
                    Attributes = drawing ? One<bool?>(null, true) : null,
                    Table = One(null, "csv", "xlsx", "json"),
                }
            ),
            Together = into.As == "section" || into.Merge == true ? null : One<bool?>(null, null, true),
            Name = "{n}-{source}",
        };
    }

    // A view with some of what can be said of it.
    private static OrderInto View(Random random, string content)
    {
        T One<T>(params T[] of) => of[random.Next(of.Length)];
        return new OrderInto
        {
            File = One("dxf", "dwg"),
            As = content,
            Depth = One<double?>(null, 0.7, 20),
            Before = One(null, "out"),
            Hidden = One(null, "dashed", "out"),
            Hatch = One<bool?>(null, true),
            Symbols = content == "plan" ? One<bool?>(null, true) : null,
            Marks = One<bool?>(null, true),
            Lines =
                content == "plan"
                    ? null
                    :
                    [
                        new OrderLine
                        {
                            Name = "A",
                            From = [-20, random.NextDouble()],
                            To = [30, random.NextDouble()],
                        },
                        new OrderLine
                        {
                            Name = "B",
                            From = [random.NextDouble(), 20],
                            To = [0, -30],
                        },
                    ],
            Sheet = content == "plan" ? null : One(null, new OrderSheet { Paper = "A0", Scale = One(50, 200, 1000) }),
        };
    }

    [Fact]
    public void Any_order_balances()
    {
        int files = 0,
            refused = 0;
        for (int seed = 0; seed < (Environment.GetEnvironmentVariable("LINTEL_FUZZ") is null ? 250 : 5000); seed++)
        {
            var document = Order(new Random(seed));
            Assert.Equal(document.Write(), OrderDocument.Read(document.Write()).Write());
            var first = new MemoryFiles();
            var second = new MemoryFiles();
            HandoverResult result;
            try
            {
                result = HandoverRunner.Run(
                    new HandoverRun(document.ToOrder(Library), Sources, first)
                    {
                        Job = "J",
                        TimeStamp = "2026-01-01T00:00:00",
                    }
                );
            }
            catch (OrderException e)
            {
                // What cannot be said together is refused in a sentence.
                Assert.EndsWith(".", e.Message, StringComparison.Ordinal);
                refused++;
                continue;
            }

            Assert.True(
                result.Balanced,
                $"seed {seed}: {document.Write()}\n{string.Join("\n", result.Reconciliation.Differences.Take(8))}"
            );
            HandoverRunner.Run(
                new HandoverRun(OrderDocument.Read(document.Write()).ToOrder(Library), Sources, second)
                {
                    Job = "J",
                    TimeStamp = "2026-01-01T00:00:00",
                }
            );
            foreach (string name in first.Files.Keys)
                Assert.True(first.Read(name).Span.SequenceEqual(second.Read(name).Span), $"seed {seed}: {name}");
            files += result.Files.Count;
        }

        output.WriteLine($"{files} files, {refused} orders refused");
        Assert.True(files > 300 && refused < 60, $"{files} files, {refused} refused");
    }
}
