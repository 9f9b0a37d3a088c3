namespace SteadyLintel.Exchange;

/// <summary>Turns an order's document into the order, and says which word of it is not known.</summary>
internal static class OrderReader
{
    private const int MaxDepth = 8;

    /// <summary>The order that a document says.</summary>
    /// <exception cref="OrderException">A word is not known, or does not go with another.</exception>
    public static HandoverOrder Read(OrderDocument document, OrderLibrary library)
    {
        var into = document.Into;
        var properties = document.Properties ?? new OrderProperties();
        var tables = document.Tables ?? new OrderTables();
        OrderOptions.File.Check(into.File);
        OrderOptions.Schema.Check(into.Schema);
        OrderOptions.Content.Check(into.As);
        OrderOptions.Detail.Check(into.Detail);
        OrderOptions.Unit.Check(document.Unit);
        OrderOptions.Every.Check(document.Every);
        OrderOptions.Storeys.Check(document.Storeys);
        OrderOptions.Blanks.Check(properties.Blanks);
        OrderOptions.Table.Check(properties.Table);
        var form = FileForm.Of(into);
        var splits = Splits(document.Split);
        var order = new HandoverOrder(
            Rules(document.Rules, library),
            form,
            splits.Contains(SplitKind.Storey),
            document.Unit is null ? null : LengthUnit.Find(document.Unit),
            document.Name
        )
        {
            Schema = into.Schema,
            Merge = into.Merge == true,
            Detail = into.Detail switch
            {
                "coarse" => DetailLevel.Coarse,
                "boxes" => DetailLevel.Boxes,
                _ => DetailLevel.All,
            },
            LineWork = LineWorkReader.Read(into, form.DrawsLines),
            Sheet = LineWorkReader.Sheet(into.Sheet),
            Attributes = properties.Attributes == true,
            Tolerance = Fineness(into),
            Frame = FrameChoice.Parse(document.Frame)
                ?? throw new OrderException(
                    $"frame takes source, job, party, map, local or x,y,z,deg, not '{document.Frame}'."
                ),
            Edits = [.. document.Changes.Select(Edit)],
            Together = document.Together == true,
            Models = into.File != FileForm.None,
            To = document.To,
            SplitBy = [.. splits.Where(s => s != SplitKind.Storey)],
            SplitKey = document.SplitKey ?? "",
            JobStoreys = document.Storeys == "job",
            Layers = Of(tables.Layers, library.Layers, "layer table"),
            Classes = Of(tables.Classes, library.Classes, "class table"),
            Names = Of(tables.Names, library.Names, "name table"),
            Properties = Of(properties.List, library.Properties, "property list"),
            BlanksOut = properties.Blanks == "out",
            Computed = properties.Computed == true,
            Amendments = document.Amendments != false,
            PropertyTable = properties.Table,
            Drawings = document.Drawings is null ? null : DrawingOrder.Read(document.Drawings),
        };
        order = form.Read(into, order);
        if (NameTemplate.Problem(document.Name) is { } problem)
            throw new OrderException(problem);
        return order.Problem() is { } refusal ? throw new OrderException(refusal) : order;
    }

    // What each file is of; none for one in all.
    private static List<SplitKind> Splits(string text)
    {
        string[] words = text.Split('+', StringSplitOptions.TrimEntries);
        foreach (string word in words)
            OrderOptions.Split.Check(word);
        if (words is ["none"])
            return [];
        return words.Contains("none")
            ? throw new OrderException("split takes none alone, or other words joined by +.")
            : [.. words.Select(w => Enum.Parse<SplitKind>(w, true)).Distinct()];
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
        OrderOptions.RuleVerb.Check(rule.Do);
        OrderOptions.RuleField.Check(rule.What);
        OrderOptions.RuleTest.Check(rule.Is);
        var field = RuleField.Find(rule.What)!;
        var test = rule.Is is { } word ? RuleWords.Tests.First(t => t.Word == word).Value : field.Usual;
        bool keyed = field.Kind == RuleFieldKind.Property;
        if (keyed && rule.Key?.Contains('.', StringComparison.Ordinal) != true)
            throw new OrderException("A rule about a property needs its key, Set.Property.");
        if (!keyed && rule.Key is not null)
            throw new OrderException($"A rule about a {rule.What} has no key.");
        if (!keyed && rule.Are.Count == 0)
            throw new OrderException($"The rule '{rule.Do} {rule.What}' names no {rule.What}.");
        if (!field.Takes.Contains(test))
            throw new OrderException(
                $"A rule about a {rule.What} takes {OrderOption.Listing([.. field.Takes.Select(RuleWords.Word)])}, not '{RuleWords.Word(test)}'."
            );
        var made = new SelectionRule(
            RuleWords.Verbs.First(v => v.Word == rule.Do).Value,
            field,
            rule.Are,
            rule.Key ?? ""
        )
        {
            Test = test,
            Inside = field.Kind == RuleFieldKind.Saved ? library.Chosen(rule.What, rule.Are, depth + 1) : null,
        };
        // Directions have no beginning: from 170 to 10 goes through 180.
        if (
            test == RuleTest.Between
            && (made.Bounds() is not var (low, high) || (low > high && field != RuleField.Bearing))
        )
            throw new OrderException(
                $"The rule '{rule.Do} {rule.What}' needs two numbers, the lower first, such as \"0\" and \"0.5\"; an empty one is open."
            );
        if (test is RuleTest.Missing or RuleTest.Blank && rule.Are.Count > 0)
            throw new OrderException($"A rule about a property that is {RuleWords.Word(test)} has no values.");
        return made;
    }

    private static ModelEdit Edit(OrderChange change)
    {
        OrderOptions.Change.Check(change.Do);
        var kind = OrderOptions.Changes.First(c => c.Word == change.Do).Value;
        if (kind != EditKind.SetProperty)
            return change.From.Length > 0 && change.To.Length > 0
                ? new ModelEdit(kind, change.From, change.To)
                : throw new OrderException($"The change '{change.Do}' needs from and to.");
        int dot = change.Key?.IndexOf('.', StringComparison.Ordinal) ?? -1;
        if (dot <= 0 || dot == change.Key!.Length - 1)
            throw new OrderException("A change that sets a property needs its key, Set.Property.");
        return new ModelEdit(kind, change.From, change.To, change.Key[..dot], change.Key[(dot + 1)..]);
    }
}
