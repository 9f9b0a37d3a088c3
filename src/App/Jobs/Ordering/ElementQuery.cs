using Microsoft.EntityFrameworkCore;
using Npgsql;
using SteadyLintel.Exchange;
using SteadyLintel.Ifc;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Elements of a revision that are alike in storey and class, in having a body or lines, and in which rules match them.</summary>
/// <param name="Storey">The storey's number, -1 for none.</param>
/// <param name="Class">The class.</param>
/// <param name="Shaped">Whether they have a body.</param>
/// <param name="Matches">For each rule whether it matches.</param>
/// <param name="Count">How many there are.</param>
public sealed record ElementGroup(int Storey, string Class, bool Shaped, bool[] Matches, int Count)
{
    /// <summary>Whether an amendment leaves them out of orders.</summary>
    public bool LeftOut { get; init; }
}

/// <summary>Selection rules over stored elements, set-based.</summary>
/// <remarks>
/// What a rule means is said in Core alone: here each rule becomes the names, numbers or storeys of the revision that it matches (a few
/// hundred words), and the database only
/// asks which elements have one of them. Which rule decides is then Core's again.
/// </remarks>
/// <param name="db">The database.</param>
public sealed class ElementQuery(LintelDb db)
{
    /// <summary>Groups the elements of a revision by which rules match them.</summary>
    /// <param name="revision">The revision, as the source that it is of.</param>
    /// <param name="selection">The rules, with the storeys of the job's schedule (<see cref="Selection.On"/>).</param>
    /// <param name="cancel">Stops it.</param>
    public async Task<IReadOnlyList<ElementGroup>> GroupsAsync(
        QueriedRevision revision,
        Selection selection,
        CancellationToken cancel
    )
    {
        var connection = await OpenAsync(cancel);
        await using var command = new NpgsqlCommand { Connection = connection };
        command.Parameters.Add(new NpgsqlParameter { Value = revision.Id });
        var conditions = new List<string>();
        foreach (var rule in selection.Rules)
            conditions.Add(await ConditionAsync(rule, revision, command, cancel));
        string matches = conditions.Count == 0 ? "ARRAY[]::boolean[]" : $"ARRAY[{string.Join(", ", conditions)}]";
        command.CommandText =
            $"SELECT storey, class, box IS NOT NULL, {matches}, count(*)::integer, left_out FROM elements WHERE revision_id = $1 GROUP BY 1, 2, 3, 4, 6";
        var groups = new List<ElementGroup>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
            groups.Add(
                new ElementGroup(
                    reader.GetInt32(0),
                    reader.GetString(1),
                    reader.GetBoolean(2),
                    reader.GetFieldValue<bool[]>(3),
                    reader.GetInt32(4)
                )
                {
                    LeftOut = reader.GetBoolean(5),
                }
            );
        return groups;
    }

    /// <summary>Which rules match each element of a revision that is on some storeys and of a class.</summary>
    /// <param name="revision">The revision, as the source that it is of.</param>
    /// <param name="selection">The rules, with the storeys of the job's schedule.</param>
    /// <param name="storeys">Numbers of storeys, -1 for none; null for all.</param>
    /// <param name="type">The class; null for all.</param>
    /// <param name="most">How many at most.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>The GlobalId and the matches of each.</returns>
    public async Task<IReadOnlyList<(string Id, bool[] Matches)>> EachAsync(
        QueriedRevision revision,
        Selection selection,
        int[]? storeys,
        string? type,
        int most,
        CancellationToken cancel
    )
    {
        var connection = await OpenAsync(cancel);
        await using var command = new NpgsqlCommand { Connection = connection };
        command.Parameters.Add(new NpgsqlParameter { Value = revision.Id });
        var conditions = new List<string>();
        foreach (var rule in selection.Rules)
            conditions.Add(await ConditionAsync(rule, revision, command, cancel));
        string where = "revision_id = $1";
        void Only(string column, object value)
        {
            command.Parameters.Add(new NpgsqlParameter { Value = value });
            where += $" AND {column} = ANY(${command.Parameters.Count})";
        }

        if (storeys is not null)
            Only("storey", storeys);
        if (type is not null)
            Only("class", new[] { type });
        command.CommandText =
            $"SELECT global_id, {(conditions.Count == 0 ? "ARRAY[]::boolean[]" : $"ARRAY[{string.Join(", ", conditions)}]")} "
            + $"FROM elements WHERE {where} ORDER BY number LIMIT {most.ToString(System.Globalization.CultureInfo.InvariantCulture)}";
        var found = new List<(string, bool[])>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
            found.Add((reader.GetString(0), reader.GetFieldValue<bool[]>(1)));
        return found;
    }

    /// <summary>Which rules match one element; null where the revision has none of that GlobalId.</summary>
    public async Task<(string Class, string Name, bool[] Matches)?> OneAsync(
        QueriedRevision revision,
        Selection selection,
        string id,
        CancellationToken cancel
    )
    {
        var connection = await OpenAsync(cancel);
        await using var command = new NpgsqlCommand { Connection = connection };
        command.Parameters.Add(new NpgsqlParameter { Value = revision.Id });
        var conditions = new List<string>();
        foreach (var rule in selection.Rules)
            conditions.Add(await ConditionAsync(rule, revision, command, cancel));
        command.Parameters.Add(new NpgsqlParameter { Value = id });
        command.CommandText =
            $"SELECT class, name, {(conditions.Count == 0 ? "ARRAY[]::boolean[]" : $"ARRAY[{string.Join(", ", conditions)}]")} "
            + $"FROM elements WHERE revision_id = $1 AND global_id = ${command.Parameters.Count} LIMIT 1";
        await using var reader = await command.ExecuteReaderAsync(cancel);
        return await reader.ReadAsync(cancel)
            ? (reader.GetString(0), reader.GetString(1), reader.GetFieldValue<bool[]>(2))
            : null;
    }

    private async Task<NpgsqlConnection> OpenAsync(CancellationToken cancel)
    {
        await db.Database.OpenConnectionAsync(cancel);
        return (NpgsqlConnection)db.Database.GetDbConnection();
    }

    // A rule that chooses by class, type or GlobalId chooses the parts of what it matches too (SelectionRule.ChoosesParts).
    private async Task<string> ConditionAsync(
        SelectionRule rule,
        QueriedRevision revision,
        NpgsqlCommand command,
        CancellationToken cancel
    )
    {
        string itself = await ItselfAsync(rule, revision, command, cancel);
        return rule.ChoosesParts && revision.HasParts
            ? $"({itself} OR wholes && ARRAY(SELECT number FROM elements WHERE revision_id = $1 AND {itself}))"
            : itself;
    }

    private async Task<string> ItselfAsync(
        SelectionRule rule,
        QueriedRevision revision,
        NpgsqlCommand command,
        CancellationToken cancel
    )
    {
        string Parameter(object value)
        {
            command.Parameters.Add(new NpgsqlParameter { Value = value });
            return $"${command.Parameters.Count}";
        }

        return rule.Field.Kind switch
        {
            RuleFieldKind.Class => await ClassAsync(rule, revision.Id, revision.Nothing, Parameter, cancel),
            RuleFieldKind.Property => await PropertyAsync(rule, revision.Id, revision.Nothing, Parameter, cancel),
            RuleFieldKind.Number => $"number = ANY({Parameter(await BodiesAsync(rule, revision, cancel))})",
            RuleFieldKind.Saved => await InsideAsync(rule.Inside ?? Selection.All, revision, command, cancel),
            RuleFieldKind.Id => $"global_id = ANY({Parameter(rule.Values.ToArray())})",
            RuleFieldKind.Names when rule.Test == RuleTest.Exactly => await StacksAsync(
                rule,
                revision,
                Parameter,
                cancel
            ),
            _ when StoredField.Of(rule.Field) is { } stored => await NamesAsync(
                stored,
                rule,
                revision,
                Parameter,
                cancel
            ),
            _ when rule.Field == RuleField.Storey => await StoreysAsync(rule, revision, Parameter, cancel),
            // What is the same for all elements of a revision.
            _ => rule.Matches(revision.Nothing) ? "true" : "false",
        };
    }

    private async Task<string> StoreysAsync(
        SelectionRule rule,
        QueriedRevision revision,
        Func<object, string> parameter,
        CancellationToken cancel
    )
    {
        var storeys = await db
            .Levels.Where(l => l.RevisionId == revision.Id)
            .Select(l => new { l.Number, l.Name })
            .ToListAsync(cancel);
        int[] numbers =
        [
            .. storeys
                .Append(new { Number = -1, Name = "" })
                .Where(l => rule.Matches(revision.Nothing with { StoreyNumber = l.Number, Storey = l.Name }))
                .Select(l => l.Number),
        ];
        return $"storey = ANY({parameter(numbers)})";
    }

    // All layers of an element together.
    private async Task<string> StacksAsync(
        SelectionRule rule,
        QueriedRevision revision,
        Func<object, string> parameter,
        CancellationToken cancel
    )
    {
        var stacks = await db
            .Facets.Where(f => f.RevisionId == revision.Id)
            .Select(f => f.Layer)
            .Distinct()
            .ToListAsync(cancel);
        string[] meant =
        [
            .. stacks.Where(l => rule.Matches(revision.Nothing with { Layers = l.Length == 0 ? [] : l.Split('\n') })),
        ];
        return $"layer = ANY({parameter(meant)})";
    }

    private async Task<string> NamesAsync(
        StoredField stored,
        SelectionRule rule,
        QueriedRevision revision,
        Func<object, string> parameter,
        CancellationToken cancel
    )
    {
        var names = await stored.NamesIn(db, revision.Id).ToListAsync(cancel);
        bool Matches(string[] named) => rule.MatchesItself(stored.Named(revision.Nothing, named));
        string meant = parameter(names.Where(n => Matches([n])).ToArray());
        if (!stored.IsList)
            return $"{stored.Expression} = ANY({meant})";
        string none = Matches([]) ? $" OR {stored.Expression} = '{{}}'" : "";
        return $"({stored.Expression} && {meant}{none})";
    }

    // What the rules of a saved set or view let go, as one condition: Selection.Judge says what each verb does.
    private async Task<string> InsideAsync(
        Selection inside,
        QueriedRevision revision,
        NpgsqlCommand command,
        CancellationToken cancel
    )
    {
        string goes = inside.Rules is [{ Verb: SelectionVerb.With }, ..] ? "false" : "true";
        foreach (var rule in inside.Rules)
        {
            string condition = await ConditionAsync(rule, revision, command, cancel);
            goes = rule.Verb switch
            {
                SelectionVerb.With => $"({goes} OR {condition})",
                SelectionVerb.Without => $"({goes} AND NOT ({condition}))",
                _ => $"({goes} AND ({condition}))",
            };
        }

        return goes;
    }

    private async Task<string> ClassAsync(
        SelectionRule rule,
        Guid id,
        SelectionSubject nothing,
        Func<object, string> parameter,
        CancellationToken cancel
    )
    {
        if (!rule.Values.Any(v => v.Contains('.', StringComparison.Ordinal)))
        {
            var classes = await db
                .Facets.Where(f => f.RevisionId == id)
                .Select(f => f.Class)
                .Distinct()
                .ToListAsync(cancel);
            return $"class = ANY({parameter(classes.Where(c => rule.Matches(nothing with { Class = c })).ToArray())})";
        }

        var pairs = await db
            .Elements.Where(e => e.RevisionId == id)
            .Select(e => new { e.Class, e.Predefined })
            .Distinct()
            .ToListAsync(cancel);
        var meant = pairs
            .Where(p => rule.Matches(nothing with { Class = p.Class, Predefined = p.Predefined }))
            .ToList();
        return $"(class, predefined) IN (SELECT * FROM unnest({parameter(meant.ConvertAll(p => p.Class).ToArray())}, "
            + $"{parameter(meant.ConvertAll(p => p.Predefined).ToArray())}))";
    }

    // Boxes and bearings are numbers, of which nearly every element has its own: each is asked.
    private async Task<int[]> BodiesAsync(SelectionRule rule, QueriedRevision revision, CancellationToken cancel)
    {
        var numbers = new List<int>();
        var rows = db
            .Elements.AsNoTracking()
            .Where(e => e.RevisionId == revision.Id && e.Box != null)
            .Select(e => new
            {
                e.Number,
                e.Box,
                e.Bearing,
                e.Size,
            });
        await foreach (var row in rows.AsAsyncEnumerable().WithCancellation(cancel))
        {
            var b = row.Box!;
            var body = SubjectBody.Of(
                new ItemBody(
                    new Geometry.Box(new(b[0], b[1], b[2]), new(b[3], b[4], b[5])),
                    row.Bearing,
                    row.Size ?? LongestSide(b)
                ),
                revision.Frame
            );
            if (rule.Matches(revision.Nothing with { Body = () => body }))
                numbers.Add(row.Number);
        }

        return [.. numbers];
    }

    // Of a revision that was read before sizes were kept.
    private static double LongestSide(double[] box) =>
        Math.Max(box[3] - box[0], Math.Max(box[4] - box[1], box[5] - box[2]));

    // Which sets hold a value that matches; of a rule for missing or blank, which hold one that is neither.
    private async Task<string> PropertyAsync(
        SelectionRule rule,
        Guid revision,
        SelectionSubject nothing,
        Func<object, string> parameter,
        CancellationToken cancel
    )
    {
        var found = await ValuesAsync(rule.Key, revision, cancel);
        // Sets with the same values are judged once: of a hundred thousand few differ.
        var judged = new Dictionary<string, bool>(StringComparer.Ordinal);
        bool Matches(List<PropertyText> texts)
        {
            string key = string.Join('\0', texts.Select(t => $"{t.Text}\0{t.Unit}"));
            if (!judged.TryGetValue(key, out bool matches))
                judged[key] = matches = rule.Matches(nothing with { Property = _ => texts });
            return matches;
        }

        string Have(Func<List<PropertyText>, bool> wanted) =>
            HasSets(parameter(found.Where(s => wanted(s.Value)).Select(s => s.Key).ToArray()));
        string Filled() => Have(t => t.Any(v => v.Text.Length > 0));
        return rule.Test switch
        {
            RuleTest.Missing => $"NOT {Have(_ => true)}",
            RuleTest.Blank => $"({Have(_ => true)} AND NOT {Filled()})",
            RuleTest.Equals or RuleTest.Like when rule.Values.Count == 0 => $"NOT {Filled()}",
            _ => Have(Matches),
        };
    }

    // With the operator && each element's sets would be held against each number of the list, one by one; a constant list behind = ANY
    // is hashed (PostgreSQL 14).
    private static string HasSets(string numbers) =>
        $"EXISTS (SELECT FROM unnest(sets) AS own(number) WHERE own.number = ANY({numbers}))";

    // The values of a property in each set that has it. A point may be part of the name of the set or of the property.
    private async Task<Dictionary<int, List<PropertyText>>> ValuesAsync(
        string key,
        Guid revision,
        CancellationToken cancel
    )
    {
        var found = new Dictionary<int, List<PropertyText>>();
        var connection = await OpenAsync(cancel);
        for (int dot = key.IndexOf('.', StringComparison.Ordinal); dot > 0; dot = key.IndexOf('.', dot + 1))
        {
            await using var command = new NpgsqlCommand(
                """
                SELECT p.number, (item->1)::text, item->>3 FROM property_sets p, jsonb_array_elements(p.values) AS item
                WHERE p.revision_id = $1 AND lower(p.name) = $2 AND lower(item->>0) = $3
                """,
                connection
            );
            foreach (object value in (object[])[revision, Lower(key[..dot]), Lower(key[(dot + 1)..])])
                command.Parameters.Add(new NpgsqlParameter { Value = value });
            await using var reader = await command.ExecuteReaderAsync(cancel);
            while (await reader.ReadAsync(cancel))
            {
                int number = reader.GetInt32(0);
                if (!found.TryGetValue(number, out var texts))
                    found[number] = texts = [];
                texts.Add(PropertySetStore.TextOf(reader.GetString(1), reader.GetString(2)));
            }
        }

        return found;
    }

    private static string Lower(string name) => name.ToLowerInvariant();
}

/// <summary>A revision that rules are asked about.</summary>
/// <param name="Id">Its identity.</param>
/// <param name="Source">Its place among the sources.</param>
/// <param name="Party">Its party's code.</param>
/// <param name="Name">Its source's name.</param>
/// <param name="Schema">Its schema, for subtypes.</param>
/// <param name="Frame">From its own frame into the job's; null where nobody has said.</param>
/// <param name="HasParts">Whether some of its elements are parts of others.</param>
public sealed record QueriedRevision(
    Guid Id,
    int Source,
    string Party,
    string Name,
    IfcSchema Schema,
    Geometry.Frame? Frame,
    bool HasParts
)
{
    /// <summary>A subject of which only the source is known.</summary>
    internal SelectionSubject Nothing { get; } =
        new(Schema, "", "", [], "")
        {
            Source = Source,
            Party = Party,
            SourceName = Name,
        };
}
