using System.Buffers.Binary;
using System.Globalization;
using System.Text;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Bench;

/// <summary>Writes a tower of any size for benchmarks and load tests: ten storeys, elements of the usual kinds with properties. IFC4,
/// millimetres, always the same.</summary>
public sealed class TowerWriter
{
    private const int Storeys = 10;
    private readonly StepWriter _writer;
    private readonly List<int>[] _contained = [.. Enumerable.Range(0, Storeys).Select(_ => new List<int>())];
    private readonly int[] _storeyPlacements = new int[Storeys];
    private readonly Dictionary<int, List<int>> _typed = [];
    private int _next = 1;
    private ulong _guid;

    private TowerWriter(Stream target) => _writer = new StepWriter(target);

    /// <summary>Writes elements until the file has about a size.</summary>
    /// <returns>How many elements it has.</returns>
    public static int WriteBytes(Stream target, long bytes) =>
        new TowerWriter(target).All(() => target.Position < bytes, int.MaxValue);

    /// <summary>Writes a number of elements.</summary>
    public static int WriteElements(Stream target, int elements) => new TowerWriter(target).All(() => true, elements);

    private int All(Func<bool> more, int most)
    {
        _writer.Begin(
            new StepHeader
            {
                Schema = "IFC4",
                Name = "tower.ifc",
                TimeStamp = "2026-11-01T00:00:00",
                Description = ["ViewDefinition [CoordinationView]"],
            }
        );
        int origin = Add("IFCCARTESIANPOINT", "(0.,0.,0.)"),
            world = Add("IFCAXIS2PLACEMENT3D", $"#{origin},$,$"),
            up = Add("IFCDIRECTION", "(0.,0.,1.)");
        int context = Add("IFCGEOMETRICREPRESENTATIONCONTEXT", $"$,'Model',3,0.01,#{world},$");
        int units = Add(
            "IFCUNITASSIGNMENT",
            $"(#{Add("IFCSIUNIT", "*,.LENGTHUNIT.,.MILLI.,.METRE.")},#{Add("IFCSIUNIT", "*,.AREAUNIT.,$,.SQUARE_METRE.")},#{Add("IFCSIUNIT", "*,.VOLUMEUNIT.,$,.CUBIC_METRE.")})"
        );
        int project = Root("IFCPROJECT", $"'Tower',$,$,$,$,(#{context}),#{units}");
        int building = Root("IFCBUILDING", "'Tower',$,$,$,$,$,.ELEMENT.,$,$,$");
        Root("IFCRELAGGREGATES", $"$,$,#{project},(#{building})");
        var storeys = new int[Storeys];
        for (int s = 0; s < Storeys; s++)
        {
            _storeyPlacements[s] = Placement("$", 0, 0, s * 4000);
            storeys[s] = Root(
                "IFCBUILDINGSTOREY",
                $"'Level {s}',$,$,#{_storeyPlacements[s]},$,$,.ELEMENT.,{s * 4000}."
            );
        }

        Root("IFCRELAGGREGATES", $"$,$,#{building},{List(storeys)}");
        var shapes = new TowerShapes(Add, context, world, up);
        int[] types =
        [
            .. new[] { "IFCWALLTYPE", "IFCCOLUMNTYPE", "IFCPIPESEGMENTTYPE" }.Select(
                (t, i) =>
                    Root(
                        t,
                        $"'Type {i}',$,$,$,$,$,$,{(i == 0 ? ".SOLIDWALL." : i == 1 ? ".COLUMN." : ".RIGIDSEGMENT.")}"
                    )
            ),
        ];
        int n = 0;
        for (; n < most && more(); n++)
            Element(n, shapes, types);
        for (int s = 0; s < Storeys; s++)
            if (_contained[s].Count > 0)
                Root("IFCRELCONTAINEDINSPATIALSTRUCTURE", $"$,$,{List(_contained[s])},#{storeys[s]}");
        foreach (var (type, members) in _typed)
            Root("IFCRELDEFINESBYTYPE", $"$,$,{List(members)},#{type}");
        _writer.End();
        return n;
    }

    private void Element(int n, TowerShapes shapes, int[] types)
    {
        int storey = n % Storeys,
            cell = n / Storeys;
        int placement = Placement("#" + _storeyPlacements[storey], cell % 200 * 6000, cell / 200 * 6000, 0);
        string rest = $"$,$,#{placement},#{shapes.Next(n)},'T{n}'";
        (string keyword, string tail) = (n % 10) switch
        {
            < 5 => ("IFCWALL", ",.SOLIDWALL."),
            < 7 => ("IFCCOLUMN", ",.COLUMN."),
            7 => ("IFCPIPESEGMENT", ",.RIGIDSEGMENT."),
            8 => ("IFCFURNITURE", ",.CHAIR."),
            _ => ("IFCBUILDINGELEMENTPROXY", ",$"),
        };
        int element = Root(keyword, $"'Element {n}',{rest}{tail}");
        _contained[storey].Add(element);
        if (n % 10 < 8)
            Typed(
                    types[
                        n % 10 < 5 ? 0
                        : n % 10 < 7 ? 1
                        : 2
                    ]
                )
                .Add(element);
        if (n % 20 == 0)
        {
            int opening = Root(
                "IFCOPENINGELEMENT",
                $"'Opening',$,$,#{Placement("#" + placement, 1000, 0, 0)},#{shapes.Opening()},$,.OPENING."
            );
            Root("IFCRELVOIDSELEMENT", $"$,$,#{element},#{opening}");
        }

        int[] properties =
        [
            Property("Reference", $"IFCIDENTIFIER('R-{n % 97}')"),
            Property("FireRating", n % 3 == 0 ? "$" : "IFCLABEL('EI 60')"),
            Property("IsExternal", n % 2 == 0 ? "IFCBOOLEAN(.T.)" : "IFCBOOLEAN(.F.)"),
            Property("Length", $"IFCPOSITIVELENGTHMEASURE({1000 + (n % 4000)}.5)"),
        ];
        Root(
            "IFCRELDEFINESBYPROPERTIES",
            $"$,$,(#{element}),#{Root("IFCPROPERTYSET", $"'Pset_Common',$,{List(properties)}")}"
        );
    }

    private int Property(string name, string value) => Add("IFCPROPERTYSINGLEVALUE", $"'{name}',$,{value},$");

    private List<int> Typed(int type) => _typed.TryGetValue(type, out var list) ? list : _typed[type] = [];

    private int Placement(string parent, double x, double y, double z) =>
        Add(
            "IFCLOCALPLACEMENT",
            $"{parent},#{Add("IFCAXIS2PLACEMENT3D", $"#{Add("IFCCARTESIANPOINT", $"({N(x)},{N(y)},{N(z)})")},$,$")}"
        );

    private int Root(string keyword, string rest)
    {
        Span<byte> bytes = stackalloc byte[16];
        bytes.Clear();
        BinaryPrimitives.WriteUInt64BigEndian(bytes[8..], ++_guid * 0x9E3779B97F4A7C15);
        return Add(keyword, $"'{GlobalIds.FromBytes(bytes)}',$,{rest}");
    }

    private int Add(string keyword, string inside)
    {
        _writer.Instance(_next, keyword, inside);
        return _next++;
    }

    private static string List(IEnumerable<int> ids) =>
        "(" + string.Join(",", ids.Select(i => "#" + i.ToString(CultureInfo.InvariantCulture))) + ")";

    private static string N(double value) => StepNumber.Format(value);
}
