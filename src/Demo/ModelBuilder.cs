using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Demo;

/// <summary>Writes a building model instance by instance, in metres; lengths are converted to the file's unit on the way. The same calls
/// give the same bytes.</summary>
internal sealed class ModelBuilder
{
    private readonly StepWriter _writer;
    private readonly double _unit;
    private readonly string _party;
    private readonly Dictionary<string, List<int>> _layers = [];
    private readonly Dictionary<int, List<int>> _contained = [];
    private readonly Dictionary<int, List<int>> _typed = [];
    private readonly Dictionary<int, List<int>> _material = [];
    private readonly Dictionary<string, int> _styles = [];
    private readonly Dictionary<string, int> _materials = [];
    private int _next = 1;

    /// <summary>Begins a file.</summary>
    /// <param name="target">Gets the bytes.</param>
    /// <param name="party">The party's code, for GlobalIds.</param>
    /// <param name="schema"><c>IFC2X3</c> or <c>IFC4</c>.</param>
    /// <param name="unit"><c>mm</c>, <c>m</c> or <c>ft</c>.</param>
    /// <param name="application">The authoring application's name, invented.</param>
    /// <param name="time">Of the export, ISO 8601.</param>
    public ModelBuilder(Stream target, string party, string schema, string unit, string application, string time)
    {
        _writer = new StepWriter(target);
        _party = party;
        Schema = schema;
        _unit = unit switch
        {
            "mm" => 0.001,
            "ft" => 0.3048,
            _ => 1,
        };
        _writer.Begin(
            new StepHeader
            {
                Schema = schema,
                Description = ["ViewDefinition [CoordinationView]"],
                Name = $"HW-{party}.ifc",
                TimeStamp = time,
                Author = [party],
                Organization = [party],
                PreprocessorVersion = application,
                OriginatingSystem = application,
            }
        );
        int person = Add("IFCPERSON", "$,$,'',$,$,$,$,$"),
            organisation = Add("IFCORGANIZATION", $"$,{Text(party)},$,$,$");
        int both = Add("IFCPERSONANDORGANIZATION", $"#{person},#{organisation},$"),
            app = Add("IFCAPPLICATION", $"#{organisation},'1.4',{Text(application)},{Text(application)}");
        Owner = Add("IFCOWNERHISTORY", $"#{both},#{app},$,.ADDED.,$,$,$,1795000000");
        Origin = Add("IFCCARTESIANPOINT", "(0.,0.,0.)");
        Up = Add("IFCDIRECTION", "(0.,0.,1.)");
        World = Add("IFCAXIS2PLACEMENT3D", $"#{Origin},$,$");
        int root = Context = Add(
            "IFCGEOMETRICREPRESENTATIONCONTEXT",
            $"$,'Model',3,{StepNumber.Format(1e-5 / _unit)},#{World},$"
        );
        Body = Add("IFCGEOMETRICREPRESENTATIONSUBCONTEXT", $"'Body','Model',*,*,*,*,#{root},$,.MODEL_VIEW.,$");
        Project = Root("IFCPROJECT", "project", $"'Heron Wharf',$,$,$,$,(#{root}),#{Units(unit)}");
    }

    public string Schema { get; }

    public int Owner { get; }

    public int Origin { get; }

    public int Up { get; }

    public int World { get; }

    public int Body { get; }

    /// <summary>The context of the model's coordinates, which a map conversion starts from.</summary>
    public int Context { get; }

    public int Project { get; }

    /// <summary>The name of the next instance, for flaws that must point nowhere.</summary>
    public int Next => _next;

    public int Add(string keyword, string inside)
    {
        _writer.Instance(_next, keyword, inside);
        return _next++;
    }

    /// <summary>Adds a rooted instance; its GlobalId is derived from the party and the key.</summary>
    public int Root(string keyword, string key, string rest, string? globalId = null) =>
        Add(keyword, $"'{globalId ?? Id(key)}',#{Owner},{rest}");

    public string Id(string key)
    {
        var hash = SHA256.HashData(Encoding.UTF8.GetBytes($"Heron Wharf/{_party}/{key}"));
        return GlobalIds.FromBytes(hash.AsSpan(0, 16));
    }

    /// <summary>A length in the file's unit.</summary>
    public string L(double metres) =>
        StepNumber.Format(
            double.Parse((metres / _unit).ToString("G11", CultureInfo.InvariantCulture), CultureInfo.InvariantCulture)
        );

    public static string N(double number) =>
        StepNumber.Format(
            double.Parse(number.ToString("G11", CultureInfo.InvariantCulture), CultureInfo.InvariantCulture)
        );

    public static string Text(string text) => StepWriter.String(text);

    public static string List(IEnumerable<int> ids) => "(" + string.Join(",", ids.Select(i => "#" + i)) + ")";

    public int Point(double x, double y, double z) =>
        x == 0 && y == 0 && z == 0 ? Origin : Add("IFCCARTESIANPOINT", $"({L(x)},{L(y)},{L(z)})");

    public int Point2(double x, double y) => Add("IFCCARTESIANPOINT", $"({L(x)},{L(y)})");

    public int Direction(double x, double y, double z) => Add("IFCDIRECTION", $"({N(x)},{N(y)},{N(z)})");

    /// <summary>A placement relative to another, turned about Z by an angle in radians.</summary>
    public int Placement(int? parent, double x, double y, double z, double turn = 0)
    {
        string axes = turn == 0 ? "$,$" : $"#{Up},#{Direction(Math.Cos(turn), Math.Sin(turn), 0)}";
        int position = Add("IFCAXIS2PLACEMENT3D", $"#{Point(x, y, z)},{axes}");
        return Add("IFCLOCALPLACEMENT", $"{(parent is { } p ? "#" + p : "$")},#{position}");
    }

    /// <summary>A placement whose Z runs along a direction.</summary>
    public int PlacementAlong(
        int parent,
        (double X, double Y, double Z) at,
        (double X, double Y, double Z) axis,
        (double X, double Y, double Z) reference
    )
    {
        int position = Add(
            "IFCAXIS2PLACEMENT3D",
            $"#{Point(at.X, at.Y, at.Z)},#{Direction(axis.X, axis.Y, axis.Z)},#{Direction(reference.X, reference.Y, reference.Z)}"
        );
        return Add("IFCLOCALPLACEMENT", $"#{parent},#{position}");
    }

    /// <summary>A rectangle profile with its corner at the origin, so that walls run from a point.</summary>
    public int Rectangle(double width, double depth, double x = double.NaN, double y = double.NaN)
    {
        string at = double.IsNaN(x) ? $"#{Point2(width / 2, depth / 2)}" : $"#{Point2(x, y)}";
        int position = Add("IFCAXIS2PLACEMENT2D", $"{at},$");
        return Add("IFCRECTANGLEPROFILEDEF", $".AREA.,$,#{position},{L(width)},{L(depth)}");
    }

    /// <summary>A closed outline.</summary>
    public int Outline(IEnumerable<(double X, double Y)> points)
    {
        var ids = points.Select(p => Point2(p.X, p.Y)).ToList();
        int line = Add("IFCPOLYLINE", List(ids.Append(ids[0])));
        return Add("IFCARBITRARYCLOSEDPROFILEDEF", $".AREA.,$,#{line}");
    }

    public int Extrude(int profile, double depth, int? position = null) =>
        Add("IFCEXTRUDEDAREASOLID", $"#{profile},#{position ?? World},#{Up},{L(depth)}");

    /// <summary>A placement of a solid within its element.</summary>
    public int Position(double x, double y, double z) => Add("IFCAXIS2PLACEMENT3D", $"#{Point(x, y, z)},$,$");

    /// <summary>A body representation; every item gets the colour.</summary>
    public int Shape(string layer, string type, string colour, params int[] items)
    {
        foreach (int item in items)
            if (colour.Length > 0)
                Add("IFCSTYLEDITEM", $"#{item},(#{Style(colour)}),$");
        int representation = Add("IFCSHAPEREPRESENTATION", $"#{Body},'Body',{Text(type)},{List(items)}");
        if (layer.Length > 0)
            Many(_layers, layer).Add(representation);
        return representation;
    }

    public int Definition(params int[] representations) =>
        Add("IFCPRODUCTDEFINITIONSHAPE", $"$,$,{List(representations)}");

    public int Solid(string layer, string colour, params int[] solids) =>
        Definition(Shape(layer, "SweptSolid", colour, solids));

    /// <summary>A map that mapped items repeat.</summary>
    public int Map(string type, string colour, params int[] items) =>
        Add("IFCREPRESENTATIONMAP", $"#{World},#{Shape("", type, colour, items)}");

    /// <summary>A shape that repeats a map.</summary>
    public int Mapped(string layer, int map)
    {
        int target = Add("IFCCARTESIANTRANSFORMATIONOPERATOR3D", $"$,$,#{Origin},$,$");
        return Definition(Shape(layer, "MappedRepresentation", "", Add("IFCMAPPEDITEM", $"#{map},#{target}")));
    }

    /// <summary>A closed brep from points in metres and faces that name them, outward.</summary>
    public int Brep(IReadOnlyList<(double X, double Y, double Z)> points, IEnumerable<int[]> faces)
    {
        var ids = points.Select(p => Point(p.X, p.Y, p.Z)).ToList();
        var made = faces
            .Select(f =>
            {
                int loop = Add("IFCPOLYLOOP", List(f.Select(i => ids[i])));
                return Add("IFCFACE", $"(#{Add("IFCFACEOUTERBOUND", $"#{loop},.T.")})");
            })
            .ToList();
        return Add("IFCFACETEDBREP", $"#{Add("IFCCLOSEDSHELL", List(made))}");
    }

    /// <summary>A type object; <paramref name="rest"/> are the attributes after Tag.</summary>
    public int Type(string keyword, string name, string rest, string sets = "$", string maps = "$") =>
        Root(keyword, $"type/{name}", $"{Text(name)},$,$,{sets},{maps},$,{rest}");

    /// <summary>A property set of single values; a null value is written blank.</summary>
    public int PropertySet(string key, string name, params (string Name, string? Value)[] properties)
    {
        var ids = properties
            .Select(p => Add("IFCPROPERTYSINGLEVALUE", $"{Text(p.Name)},$,{p.Value ?? "$"},$"))
            .ToList();
        return Root("IFCPROPERTYSET", $"pset/{name}/{key}", $"{Text(name)},$,{List(ids)}");
    }

    /// <summary>Gives objects a property set or quantity.</summary>
    public void Define(int set, params int[] objects) =>
        Root("IFCRELDEFINESBYPROPERTIES", $"defines/{set}", $"$,$,{List(objects)},#{set}");

    /// <summary>An element quantity of lengths, areas and volumes.</summary>
    public int Quantities(string key, string name, params (string Name, char Kind, double Value)[] quantities)
    {
        var ids = quantities
            .Select(q =>
                q.Kind switch
                {
                    'L' => Add("IFCQUANTITYLENGTH", $"{Text(q.Name)},$,$,{L(q.Value)}{(Schema == "IFC4" ? ",$" : "")}"),
                    'A' => Add("IFCQUANTITYAREA", $"{Text(q.Name)},$,$,{N(q.Value)}{(Schema == "IFC4" ? ",$" : "")}"),
                    _ => Add("IFCQUANTITYVOLUME", $"{Text(q.Name)},$,$,{N(q.Value)}{(Schema == "IFC4" ? ",$" : "")}"),
                }
            )
            .ToList();
        return Root("IFCELEMENTQUANTITY", $"quantities/{name}/{key}", $"{Text(name)},$,$,{List(ids)}");
    }

    public int Material(string name) =>
        _materials.TryGetValue(name, out int id)
            ? id
            : _materials[name] = Add("IFCMATERIAL", Text(name) + (Schema == "IFC4" ? ",$,$" : ""));

    public void Contain(int element, int structure) => Many(_contained, structure).Add(element);

    public void OfType(int element, int type) => Many(_typed, type).Add(element);

    public void OfMaterial(int element, int material) => Many(_material, material).Add(element);

    public void Aggregate(string key, int whole, params int[] parts) =>
        Root("IFCRELAGGREGATES", $"aggregates/{key}", $"$,$,#{whole},{List(parts)}");

    /// <summary>Writes the gathered relationships and layers and closes the file.</summary>
    public void Finish()
    {
        foreach (var (structure, elements) in _contained)
            Root("IFCRELCONTAINEDINSPATIALSTRUCTURE", $"contains/{structure}", $"$,$,{List(elements)},#{structure}");
        foreach (var (type, elements) in _typed)
            Root("IFCRELDEFINESBYTYPE", $"typed/{type}", $"$,$,{List(elements)},#{type}");
        foreach (var (material, elements) in _material)
            Root("IFCRELASSOCIATESMATERIAL", $"material/{material}", $"$,$,{List(elements)},#{material}");
        foreach (var (layer, items) in _layers)
            Add("IFCPRESENTATIONLAYERASSIGNMENT", $"{Text(layer)},$,{List(items)},$");
        _writer.End();
    }

    private int Style(string rgb)
    {
        if (_styles.TryGetValue(rgb, out int id))
            return id;
        var parts = rgb.Split(' ').Select(p => double.Parse(p, CultureInfo.InvariantCulture)).ToArray();
        int colour = Add("IFCCOLOURRGB", $"$,{N(parts[0])},{N(parts[1])},{N(parts[2])}");
        int rendering = Add(
            "IFCSURFACESTYLERENDERING",
            $"#{colour},{N(parts.Length > 3 ? parts[3] : 0)},$,$,$,$,$,$,.NOTDEFINED."
        );
        int surface = Add("IFCSURFACESTYLE", $"$,.BOTH.,(#{rendering})");
        return _styles[rgb] = Schema == "IFC2X3" ? Add("IFCPRESENTATIONSTYLEASSIGNMENT", $"(#{surface})") : surface;
    }

    private int Units(string unit)
    {
        int length;
        if (unit == "ft")
        {
            int metre = Add("IFCSIUNIT", "*,.LENGTHUNIT.,$,.METRE."),
                factor = Add("IFCMEASUREWITHUNIT", $"IFCLENGTHMEASURE(0.3048),#{metre}");
            length = Add(
                "IFCCONVERSIONBASEDUNIT",
                $"#{Add("IFCDIMENSIONALEXPONENTS", "1,0,0,0,0,0,0")},.LENGTHUNIT.,'FOOT',#{factor}"
            );
        }
        else
            length = Add("IFCSIUNIT", $"*,.LENGTHUNIT.,{(unit == "mm" ? ".MILLI." : "$")},.METRE.");
        int area = Add("IFCSIUNIT", "*,.AREAUNIT.,$,.SQUARE_METRE."),
            volume = Add("IFCSIUNIT", "*,.VOLUMEUNIT.,$,.CUBIC_METRE.");
        int angle = Add("IFCSIUNIT", "*,.PLANEANGLEUNIT.,$,.RADIAN."),
            pressure = Add("IFCSIUNIT", "*,.PRESSUREUNIT.,$,.PASCAL.");
        int mass = Add("IFCSIUNIT", "*,.MASSUNIT.,.KILO.,.GRAM."),
            watt = Add("IFCSIUNIT", "*,.POWERUNIT.,$,.WATT."),
            kelvin = Add("IFCSIUNIT", "*,.THERMODYNAMICTEMPERATUREUNIT.,$,.KELVIN.");
        int[] over =
        [
            Add("IFCDERIVEDUNITELEMENT", $"#{watt},1"),
            Add("IFCDERIVEDUNITELEMENT", $"#{area},-1"),
            Add("IFCDERIVEDUNITELEMENT", $"#{kelvin},-1"),
        ];
        int transmittance = Add("IFCDERIVEDUNIT", $"{List(over)},.THERMALTRANSMITTANCEUNIT.,$");
        return Add(
            "IFCUNITASSIGNMENT",
            List([length, area, volume, angle, pressure, mass, watt, kelvin, transmittance])
        );
    }

    private static List<int> Many<TKey>(Dictionary<TKey, List<int>> table, TKey key)
        where TKey : notnull
    {
        if (!table.TryGetValue(key, out var list))
            table[key] = list = [];
        return list;
    }
}
