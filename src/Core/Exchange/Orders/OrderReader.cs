using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>Turns an order's document into the order, and says which word of it is not known.</summary>
internal static class OrderReader
{
    private static readonly Dictionary<string, SelectionVerb> Verbs =
        new() { ["only"] = SelectionVerb.Only, ["without"] = SelectionVerb.Without, ["with"] = SelectionVerb.With };

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
    };

    private static readonly Dictionary<string, EditKind> Edits = new()
    {
        ["rename storey"] = EditKind.RenameStorey,
        ["move layer"] = EditKind.MoveLayer,
        ["change class"] = EditKind.ChangeClass,
        ["set property"] = EditKind.SetProperty,
    };

    /// <summary>The words a document may have, by the place they stand in; docs/order.schema.json lists the same.</summary>
    public static IReadOnlyDictionary<string, string[]> Words { get; } = new Dictionary<string, string[]>
    {
        ["do of a rule"] = [.. Verbs.Keys],
        ["what"] = [.. Fields.Keys],
        ["do of a change"] = [.. Edits.Keys],
        ["file"] = ["ifc", "dxf", "dwg", "none"],
        ["schema"] = ["IFC2X3", "IFC4", "IFC4X3"],
        ["as"] = ["meshes", "solids", "plan"],
        ["unit"] = [.. LengthUnit.All.Select(u => u.Code)],
        ["split"] = ["storey", "none"],
    };

    /// <summary>The order that a document says.</summary>
    /// <exception cref="OrderException">A word is not known, or does not go with another.</exception>
    public static HandoverOrder Read(OrderDocument document)
    {
        var into = document.Into;
        Known("file", into.File);
        bool drawing = into.File is "dwg" or "dxf";
        if (into.Schema is { } schema) Known("schema", schema);
        if (into.As is { } content) Known("as", content);
        if (document.Unit is { } unit) Known("unit", unit);
        Known("split", document.Split);
        if (!drawing && (into.Version ?? into.As) is not null) throw new OrderException("version and as go with drawings, not with ifc.");
        var frame = FrameChoice.Parse(document.Frame)
            ?? throw new OrderException($"frame takes source, job, party, map, local or x,y,z,deg, not '{document.Frame}'.");
        var format = !drawing ? HandoverFormat.Ifc : into.As == "plan" ? HandoverFormat.DrawingPlan : HandoverFormat.DrawingMeshes;
        var order = new HandoverOrder(new Selection([.. document.Rules.Select(Rule)]), format, document.Split == "storey",
            document.Unit is null ? null : LengthUnit.Find(document.Unit), document.Name)
        {
            Schema = into.Schema,
            Merge = into.Merge == true,
            Frame = frame,
            Form = drawing ? Form(into) : CadForm.Default,
            Solids = into.As == "solids",
            Edits = [.. document.Changes.Select(Edit)],
            Models = into.File != "none",
            Drawings = document.Drawings is null ? null : DrawingOrder.Read(document.Drawings),
        };
        if (NameTemplate.Problem(document.Name) is { } problem) throw new OrderException(problem);
        return order.Problem() is { } refusal ? throw new OrderException(refusal) : order;
    }

    private static SelectionRule Rule(OrderRule rule)
    {
        Known("do of a rule", rule.Do);
        Known("what", rule.What);
        var field = Fields[rule.What];
        if (field == SelectionField.Property && rule.Key?.Contains('.', StringComparison.Ordinal) != true)
            throw new OrderException("A rule about a property needs its key, Set.Property.");
        if (field != SelectionField.Property && rule.Key is not null) throw new OrderException($"A rule about a {rule.What} has no key.");
        if (field != SelectionField.Property && rule.Are.Count == 0)
            throw new OrderException($"The rule '{rule.Do} {rule.What}' names no {rule.What}.");
        return new SelectionRule(Verbs[rule.Do], field, rule.Are, rule.Key ?? "");
    }

    private static ModelEdit Edit(OrderChange change)
    {
        Known("do of a change", change.Do);
        var kind = Edits[change.Do];
        if (kind != EditKind.SetProperty) return change.From.Length > 0 && change.To.Length > 0
            ? new ModelEdit(kind, change.From, change.To) : throw new OrderException($"The change '{change.Do}' needs from and to.");
        int dot = change.Key?.IndexOf('.', StringComparison.Ordinal) ?? -1;
        if (dot <= 0 || dot == change.Key!.Length - 1)
            throw new OrderException("A change that sets a property needs its key, Set.Property.");
        return new ModelEdit(kind, change.From, change.To, change.Key[..dot], change.Key[(dot + 1)..]);
    }

    private static CadForm Form(OrderInto into)
    {
        bool dwg = into.File == "dwg";
        var form = new CadForm(dwg, dwg ? CadVersion.AC1024 : CadVersion.AC1027);
        if (into.Version is null) return form;
        return Enum.TryParse(into.Version, out CadVersion version) && form.Versions.Contains(version)
            ? form with { Version = version }
            : throw new OrderException($"version takes {string.Join(", ", form.Versions)} for {into.File}, not '{into.Version}'.");
    }

    private static void Known(string place, string word)
    {
        if (!Words[place].Contains(word, StringComparer.Ordinal))
            throw new OrderException(
                $"{place} takes {string.Join(", ", Words[place][..^1])} or {Words[place][^1]}, not '{word}'.{OrderNames.Nearest(word, Words[place])}");
    }
}
