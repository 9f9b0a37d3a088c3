using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>Turns an order's document into the order, and says which word of it is not known.</summary>
internal static class OrderReader
{
    private const int MaxDepth = 8;

    private static readonly Dictionary<string, SelectionVerb> Verbs = new()
    {
        ["only"] = SelectionVerb.Only,
        ["without"] = SelectionVerb.Without,
        ["with"] = SelectionVerb.With,
    };

    private static readonly Dictionary<string, SelectionField> Fields = new()
    {
        ["storey"] = SelectionField.Storey,
        ["class"] = SelectionField.Class,
        ["layer"] = SelectionField.Layer,
        ["type"] = SelectionField.Type,
        ["material"] = SelectionField.Material,
        ["party"] = SelectionField.Party,
        ["property"] = SelectionField.Property,
        ["element"] = SelectionField.GlobalId,
        ["source"] = SelectionField.Source,
        ["classification"] = SelectionField.Classification,
        ["group"] = SelectionField.Group,
        ["size"] = SelectionField.Size,
        ["bearing"] = SelectionField.Bearing,
        ["height"] = SelectionField.Height,
        ["set"] = SelectionField.Set,
        ["view"] = SelectionField.View,
    };

    private static readonly Dictionary<string, RuleTest> Tests = new()
    {
        ["equals"] = RuleTest.Equals,
        ["exactly"] = RuleTest.Exactly,
        ["like"] = RuleTest.Like,
        ["between"] = RuleTest.Between,
        ["missing"] = RuleTest.Missing,
        ["blank"] = RuleTest.Blank,
    };

    private static readonly Dictionary<string, SplitKind> Splits = new()
    {
        ["party"] = SplitKind.Party,
        ["source"] = SplitKind.Source,
        ["class"] = SplitKind.Class,
        ["type"] = SplitKind.Type,
        ["element"] = SplitKind.Element,
        ["assembly"] = SplitKind.Assembly,
        ["group"] = SplitKind.Group,
        ["property"] = SplitKind.Property,
    };

    private static readonly Dictionary<string, EditKind> Edits = new()
    {
        ["rename storey"] = EditKind.RenameStorey,
        ["move layer"] = EditKind.MoveLayer,
        ["change class"] = EditKind.ChangeClass,
        ["set property"] = EditKind.SetProperty,
    };

    /// <summary>The words a document may have, by the place they are in; docs/order.schema.json lists the same.</summary>
    public static IReadOnlyDictionary<string, string[]> Words { get; } =
        new Dictionary<string, string[]>
        {
            ["do of a rule"] = [.. Verbs.Keys],
            ["what"] = [.. Fields.Keys],
            ["is"] = [.. Tests.Keys],
            ["do of a change"] = [.. Edits.Keys],
            ["file"] = ["ifc", "ifczip", "dxf", "dwg", "glb", "obj", "stl", "none"],
            ["schema"] = ["IFC2X3", "IFC4", "IFC4X3"],
            ["as"] = ["meshes", "solids", "skins", "plan", "section", "text", "binary"],
            ["before"] = ["dashed", "out"],
            ["hidden"] = ["shown", "dashed", "out"],
            ["paper"] = [.. PaperSize.All.Select(p => p.Name)],
            ["detail"] = ["all", "coarse", "boxes"],
            ["unit"] = [.. LengthUnit.All.Select(u => u.Code)],
            ["split"] = ["none", "storey", .. Splits.Keys],
            ["every"] = ["revision"],
            ["storeys"] = ["source", "job"],
            ["blanks"] = ["keep", "out"],
            ["table"] = ["csv", "xlsx", "json"],
        };

    /// <summary>The order that a document says.</summary>
    /// <exception cref="OrderException">A word is not known, or does not go with another.</exception>
    public static HandoverOrder Read(OrderDocument document, OrderLibrary library)
    {
        var into = document.Into;
        Known("file", into.File);
        bool drawing = into.File is "dwg" or "dxf";
        if (into.Schema is { } schema)
            Known("schema", schema);
        if (into.As is { } content)
            Known("as", content);
        if (document.Unit is { } unit)
            Known("unit", unit);
        string[] splits = document.Split.Split('+', StringSplitOptions.TrimEntries);
        foreach (string split in splits)
            Known("split", split);
        if (splits.Length > 1 && splits.Contains("none"))
            throw new OrderException("split takes none alone, or other words joined by +.");
        if (document.Every is { } every)
            Known("every", every);
        if (document.Storeys is { } storeys)
            Known("storeys", storeys);
        var properties = document.Properties ?? new OrderProperties();
        Known("blanks", properties.Blanks);
        if (properties.Table is { } table)
            Known("table", table);
        var tables = document.Tables ?? new OrderTables();
        if (into.Detail is { } detail)
            Known("detail", detail);
        if (!drawing && (into.Version is not null || (into.As is not null && into.File != "stl")))
            throw new OrderException("version and as go with drawings, not with ifc.");
        if (into.As is "text" or "binary" && into.File != "stl")
            throw new OrderException("as takes text or binary with stl alone.");
        if (into.File == "stl" && into.As is not (null or "text" or "binary"))
            throw new OrderException("as takes text or binary with stl.");
        var frame = FrameChoice.Parse(document.Frame)
            ?? throw new OrderException(
                $"frame takes source, job, party, map, local or x,y,z,deg, not '{document.Frame}'."
            );
        var format = into.File switch
        {
            "glb" => HandoverFormat.Glb,
            "obj" => HandoverFormat.Obj,
            "stl" => into.As == "text" ? HandoverFormat.StlText : HandoverFormat.Stl,
            _ => !drawing ? HandoverFormat.Ifc
            : into.As == "plan" ? HandoverFormat.DrawingPlan
            : into.As == "section" ? HandoverFormat.DrawingSection
            : HandoverFormat.DrawingMeshes,
        };
        var order = new HandoverOrder(
            Rules(document.Rules, library),
            format,
            splits.Contains("storey"),
            document.Unit is null ? null : LengthUnit.Find(document.Unit),
            document.Name
        )
        {
            Schema = into.Schema,
            Merge = into.Merge == true,
            Zip = into.File == "ifczip",
            Detail = into.Detail switch
            {
                "coarse" => DetailLevel.Coarse,
                "boxes" => DetailLevel.Boxes,
                _ => DetailLevel.All,
            },
            LineWork = LineWorkReader.Read(into, drawing),
            Sheet = LineWorkReader.Sheet(into.Sheet),
            Attributes = properties.Attributes == true,
            Skins = into.As == "skins",
            Tolerance = Fineness(into),
            Frame = frame,
            Form = drawing ? Form(into) : CadForm.Default,
            Solids = into.As == "solids",
            Edits = [.. document.Changes.Select(Edit)],
            Together = document.Together == true,
            Models = into.File != "none",
            To = document.To,
            SplitBy = [.. splits.Where(w => w is not ("none" or "storey")).Select(w => Splits[w]).Distinct()],
            SplitKey = document.SplitKey ?? "",
            JobStoreys = document.Storeys == "job",
            Layers = Of(tables.Layers, library.Layers, "layer table"),
            Classes = Of(tables.Classes, library.Classes, "class table"),
            Names = Of(tables.Names, library.Names, "name table"),
            Properties = Of(properties.List, library.Properties, "property list"),
            BlanksOut = properties.Blanks == "out",
            Computed = properties.Computed == true,
            PropertyTable = properties.Table,
            Drawings = document.Drawings is null ? null : DrawingOrder.Read(document.Drawings),
        };
        if (NameTemplate.Problem(document.Name) is { } problem)
            throw new OrderException(problem);
        return order.Problem() is { } refusal ? throw new OrderException(refusal) : order;
    }

    private static Geometry.Tolerance? Fineness(OrderInto into)
    {
        if (into.Chord is null && into.Angle is null)
            return null;
        double chord = into.Chord ?? Geometry.Tolerance.Default.Chord,
            angle = into.Angle ?? 360.0 / Geometry.Tolerance.Default.FullCircle;
        return chord is > 0 and <= 1 && angle is >= 0.5 and <= 90
            ? new Geometry.Tolerance(chord, (int)Math.Ceiling(360 / angle))
            : throw new OrderException("chord takes metres above 0 and up to 1, angle degrees from 0.5 to 90.");
    }

    private static T? Of<T>(string? name, IReadOnlyDictionary<string, T> kept, string what)
        where T : class => string.IsNullOrEmpty(name) ? null : OrderLibrary.Named(kept, what, name);

    /// <summary>The rules that a list of a document's rules says.</summary>
    /// <exception cref="OrderException">A word is not known, or does not go with another.</exception>
    internal static Selection Rules(IReadOnlyList<OrderRule> rules, OrderLibrary library, int depth = 0) =>
        depth > MaxDepth
            ? throw new OrderException(
                "Saved sets and views name one another in a circle, or too deep; define one of them by its elements."
            )
            : new Selection([.. rules.Select(r => Rule(r, library, depth))]);

    private static SelectionRule Rule(OrderRule rule, OrderLibrary library, int depth)
    {
        Known("do of a rule", rule.Do);
        Known("what", rule.What);
        var field = Fields[rule.What];
        bool numbers = field is SelectionField.Size or SelectionField.Bearing or SelectionField.Height;
        string test = rule.Is ?? (numbers ? "between" : "equals");
        Known("is", test);
        if (field == SelectionField.Property && rule.Key?.Contains('.', StringComparison.Ordinal) != true)
            throw new OrderException("A rule about a property needs its key, Set.Property.");
        if (field != SelectionField.Property && rule.Key is not null)
            throw new OrderException($"A rule about a {rule.What} has no key.");
        if (field != SelectionField.Property && rule.Are.Count == 0)
            throw new OrderException($"The rule '{rule.Do} {rule.What}' names no {rule.What}.");
        if (Mismatch(field, Tests[test]) is { } words)
            throw new OrderException($"A rule about a {rule.What} takes {words}, not '{test}'.");
        var made = new SelectionRule(Verbs[rule.Do], field, rule.Are, rule.Key ?? "")
        {
            Test = Tests[test],
            Inside = field is SelectionField.Set or SelectionField.View
                ? library.Chosen(rule.What, rule.Are, depth + 1)
                : null,
        };
        if (
            made.Test == RuleTest.Between
            && (made.Bounds() is not var (low, high) || (low > high && field != SelectionField.Bearing))
        )
            throw new OrderException(
                $"The rule '{rule.Do} {rule.What}' needs two numbers, the lower first, such as \"0\" and \"0.5\"; an empty one is open."
            );
        if (made.Test is RuleTest.Missing or RuleTest.Blank && rule.Are.Count > 0)
            throw new OrderException($"A rule about a property that is {test} has no values.");
        return made;
    }

    // The tests that a field takes, where it does not take the one given.
    private static string? Mismatch(SelectionField field, RuleTest test) =>
        field switch
        {
            SelectionField.Size or SelectionField.Bearing or SelectionField.Height => test == RuleTest.Between
                ? null
                : "between",
            SelectionField.Property => test == RuleTest.Exactly ? "equals, like, between, missing or blank" : null,
            SelectionField.Class or SelectionField.Layer => test <= RuleTest.Like ? null : "equals, exactly or like",
            SelectionField.GlobalId or SelectionField.Set or SelectionField.View => test == RuleTest.Equals
                ? null
                : "equals",
            _ => test is RuleTest.Equals or RuleTest.Like ? null : "equals or like",
        };

    private static ModelEdit Edit(OrderChange change)
    {
        Known("do of a change", change.Do);
        var kind = Edits[change.Do];
        if (kind != EditKind.SetProperty)
            return change.From.Length > 0 && change.To.Length > 0
                ? new ModelEdit(kind, change.From, change.To)
                : throw new OrderException($"The change '{change.Do}' needs from and to.");
        int dot = change.Key?.IndexOf('.', StringComparison.Ordinal) ?? -1;
        if (dot <= 0 || dot == change.Key!.Length - 1)
            throw new OrderException("A change that sets a property needs its key, Set.Property.");
        return new ModelEdit(kind, change.From, change.To, change.Key[..dot], change.Key[(dot + 1)..]);
    }

    private static CadForm Form(OrderInto into)
    {
        bool dwg = into.File == "dwg";
        var form = new CadForm(dwg, dwg ? CadVersion.AC1024 : CadVersion.AC1027);
        if (into.Version is null)
            return form;
        return Enum.TryParse(into.Version, out CadVersion version) && form.Versions.Contains(version)
            ? form with
            {
                Version = version,
            }
            : throw new OrderException(
                $"version takes {string.Join(", ", form.Versions)} for {into.File}, not '{into.Version}'."
            );
    }

    internal static void Known(string place, string word)
    {
        if (!Words[place].Contains(word, StringComparer.Ordinal))
            throw new OrderException(
                $"{place} takes {string.Join(", ", Words[place][..^1])} or {Words[place][^1]}, not '{word}'.{NearestNames.Of(word, Words[place])}"
            );
    }
}
