namespace SteadyLintel.Exchange;

/// <summary>An order as it is kept and handed on: what to give, of whom, in what form. Page, terminal and transmittals read and write this
/// one document.</summary>
/// <remarks>Its JSON Schema is docs/order.schema.json. Unknown words are refused, so that an order never does less than it says.</remarks>
public sealed record OrderDocument
{
    /// <summary>The version that is written.</summary>
    public const int CurrentVersion = 1;

    internal static DocumentFormat<OrderDocument> Format { get; } = new("order");

    /// <summary>The version of the document.</summary>
    public int Version { get; init; } = CurrentVersion;

    /// <summary>Who gets it, in words.</summary>
    public string To { get; init; } = "";

    /// <summary>The sources: by identity in a job, by file name at the terminal; empty for all.</summary>
    public IReadOnlyList<string> Sources { get; init; } = [];

    /// <summary>The ordered rules that choose; empty for everything.</summary>
    public IReadOnlyList<OrderRule> Rules { get; init; } = [];

    /// <summary>What it is written into.</summary>
    public OrderInto Into { get; init; } = new();

    /// <summary>The drawings that go beside the models; null for none.</summary>
    public OrderDrawings? Drawings { get; init; }

    /// <summary>The mapping tables that it goes by; null for none.</summary>
    public OrderTables? Tables { get; init; }

    /// <summary>Which properties travel and how; null for all of them as they are.</summary>
    public OrderProperties? Properties { get; init; }

    /// <summary><c>mm</c>, <c>m</c> or <c>ft</c>; null for each source's own.</summary>
    public string? Unit { get; init; }

    /// <summary><c>source</c>, <c>job</c>, <c>local</c>, or <c>x,y,z,deg</c>.</summary>
    public string Frame { get; init; } = "source";

    /// <summary>What each file is of: <c>storey</c>, <c>party</c>, <c>source</c>, <c>class</c>, <c>type</c>, <c>element</c>,
    /// <c>assembly</c>, <c>group</c>, <c>property</c>, or several joined by +; <c>none</c> for one in all.</summary>
    public string Split { get; init; } = "none";

    /// <summary>With <c>property</c>: Set.Property.</summary>
    public string? SplitKey { get; init; }

    /// <summary>Whether, beside the files that it splits into, one more holds all of it.</summary>
    public bool? Together { get; init; }

    /// <summary>With ifc: <c>source</c> for storeys named as each source does, <c>job</c> as the job's schedule does; null for
    /// <c>source</c>.</summary>
    public string? Storeys { get; init; }

    /// <summary><c>revision</c> to run again by itself whenever a revision that it uses has come; null for never.</summary>
    public string? Every { get; init; }

    /// <summary>Whether the amendments of its sources travel; null for yes.</summary>
    public bool? Amendments { get; init; }

    /// <summary>Changes to names, classes, layers and properties.</summary>
    public IReadOnlyList<OrderChange> Changes { get; init; } = [];

    /// <summary>The template of file names.</summary>
    public string Name { get; init; } = "{party}-{storey}";

    /// <summary>Reads a document.</summary>
    /// <exception cref="OrderException">It is no JSON, has an unknown member, or another version. Whether its words make an order is for
    /// <see cref="ToOrder"/> to say.</exception>
    public static OrderDocument Read(string json) => Format.Read(json);

    /// <summary>The document as text.</summary>
    public string Write() => Format.Write(this);

    /// <summary>The order that the document says.</summary>
    /// <param name="library">The tables, sets and views it can name; null for none.</param>
    /// <exception cref="OrderException">A word of it is not known, or what it names is not in the library.</exception>
    public HandoverOrder ToOrder(OrderLibrary? library = null) => OrderReader.Read(this, library ?? OrderLibrary.Empty);
}

/// <summary>A rule of an order.</summary>
public sealed record OrderRule
{
    /// <summary><c>only</c>, <c>without</c> or <c>with</c>.</summary>
    public string Do { get; init; } = "only";

    /// <summary>What it looks at: <c>storey</c>, <c>class</c>, <c>layer</c>, <c>type</c>, <c>material</c>, <c>party</c>, <c>source</c>,
    /// <c>classification</c>, <c>group</c>, <c>property</c>, <c>size</c>, <c>bearing</c>, <c>height</c>, <c>set</c>, <c>view</c> or
    /// <c>element</c>.</summary>
    public string What { get; init; } = "";

    /// <summary>With a property, <c>Set.Property</c>.</summary>
    public string? Key { get; init; }

    /// <summary>How it compares: <c>equals</c>, <c>exactly</c>, <c>like</c>, <c>between</c>, <c>missing</c> or <c>blank</c>; null for
    /// <c>equals</c>, and for <c>between</c> where numbers are compared.</summary>
    public string? Is { get; init; }

    /// <summary>The values; two bounds with <c>between</c>, an empty one being open; of a property none for missing or blank.</summary>
    public IReadOnlyList<string> Are { get; init; } = [];
}

/// <summary>What an order is written into.</summary>
public sealed record OrderInto
{
    /// <summary><c>ifc</c>, <c>ifczip</c>, <c>dxf</c>, <c>dwg</c>, <c>glb</c>, <c>obj</c> or <c>stl</c>; <c>none</c> where drawings go
    /// alone.</summary>
    public string File { get; init; } = "ifc";

    /// <summary>With ifc: <c>IFC2X3</c>, <c>IFC4</c> or <c>IFC4X3</c>; null for the source's own.</summary>
    public string? Schema { get; init; }

    /// <summary>With ifc: all sources in one file.</summary>
    public bool? Merge { get; init; }

    /// <summary>With drawings: the version, <c>AC1015</c> … <c>AC1032</c>; null for 2010 with DWG and 2013 with DXF.</summary>
    public string? Version { get; init; }

    /// <summary>With drawings: <c>meshes</c>, <c>solids</c>, <c>skins</c>, <c>plan</c> or <c>section</c>; meshes when not said. With
    /// stl: <c>text</c> or
    /// <c>binary</c>; binary when not said.</summary>
    public string? As { get; init; }

    /// <summary>How detailed: <c>all</c>, <c>coarse</c> (without parts of less than 0.25 m) or <c>boxes</c>; null for all.</summary>
    public string? Detail { get; init; }

    /// <summary>With plans: how far above each storey's level it is cut, metres; null for 1.2.</summary>
    public double? Cut { get; init; }

    /// <summary>With plans and sections: how far behind the cut one sees, metres; null for all.</summary>
    public double? Depth { get; init; }

    /// <summary>With plans and sections: lines before the cut <c>dashed</c> or <c>out</c>; null for dashed.</summary>
    public string? Before { get; init; }

    /// <summary>With plans and sections: hidden edges <c>shown</c>, <c>dashed</c> or <c>out</c>; null for shown.</summary>
    public string? Hidden { get; init; }

    /// <summary>With plans and sections: whether cut faces are hatched by their material.</summary>
    public bool? Hatch { get; init; }

    /// <summary>With plans: whether elements that have a drawing of their own for plans show it in place of their edges.</summary>
    public bool? Symbols { get; init; }

    /// <summary>With plans and sections: whether levels are marked and grid axes have bubbles.</summary>
    public bool? Marks { get; init; }

    /// <summary>With sections: the lines they run along; null for none.</summary>
    public IReadOnlyList<OrderLine>? Lines { get; init; }

    /// <summary>With drawings: a sheet for each file; null for none.</summary>
    public OrderSheet? Sheet { get; init; }

    /// <summary>How far a chord may be off its arc, metres; null for 0.001.</summary>
    public double? Chord { get; init; }

    /// <summary>The largest angle of a chord, degrees; null for 7.5.</summary>
    public double? Angle { get; init; }
}

/// <summary>The line of a section or an elevation.</summary>
public sealed record OrderLine
{
    /// <summary>What it is called.</summary>
    public string Name { get; init; } = "";

    /// <summary>X and Y of its start, metres in the frame of the order.</summary>
    public IReadOnlyList<double> From { get; init; } = [];

    /// <summary>X and Y of its end. One looks to the left of the way from the start to the end.</summary>
    public IReadOnlyList<double> To { get; init; } = [];

    /// <summary>How far one looks, metres; null as far as the order's depth.</summary>
    public double? Depth { get; init; }
}

/// <summary>The sheets of an order.</summary>
public sealed record OrderSheet
{
    /// <summary><c>A0</c> to <c>A4</c>, <c>ANSI A</c> to <c>ANSI E</c>.</summary>
    public string Paper { get; init; } = "A3";

    /// <summary>100 for 1:100.</summary>
    public int Scale { get; init; } = 100;

    /// <summary>Whether all sheets are in one file, which has the others attached as references.</summary>
    public bool? References { get; init; }
}

/// <summary>A change that an order makes.</summary>
public sealed record OrderChange
{
    /// <summary><c>rename storey</c>, <c>move layer</c>, <c>change class</c> or <c>set property</c>.</summary>
    public string Do { get; init; } = "";

    /// <summary>The storey, layer or class it is about; for a property the class of the elements.</summary>
    public string From { get; init; } = "";

    /// <summary>The new name or class; for a property its value.</summary>
    public string To { get; init; } = "";

    /// <summary>With a property, <c>Set.Property</c>.</summary>
    public string? Key { get; init; }
}

/// <summary>The mapping tables of an order, by their names in the library.</summary>
public sealed record OrderTables
{
    /// <summary>With drawings: classes to layers with colour, line type and weight.</summary>
    public string? Layers { get; init; }

    /// <summary>Classes to the receiver's classes, or to nothing.</summary>
    public string? Classes { get; init; }

    /// <summary>With ifc: names of storeys, materials, types, sections and layers to the receiver's.</summary>
    public string? Names { get; init; }
}

/// <summary>Which properties travel and how.</summary>
public sealed record OrderProperties
{
    /// <summary>The property list, by its name in the library; null for all properties.</summary>
    public string? List { get; init; }

    /// <summary>Whether properties without a value go: <c>keep</c> or <c>out</c>.</summary>
    public string Blanks { get; init; } = "keep";

    /// <summary>Whether quantities that are missing are computed from the shapes, and marked as computed.</summary>
    public bool? Computed { get; init; }

    /// <summary>With drawings: whether each element is a block with its properties as attributes.</summary>
    public bool? Attributes { get; init; }

    /// <summary>The form of a table of the properties beside the files, by GlobalId: <c>csv</c>, <c>xlsx</c> or <c>json</c>; null for
    /// none.</summary>
    public string? Table { get; init; }
}
