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
public sealed record ElementGroup(int Storey, string Class, bool Shaped, bool[] Matches, int Count);

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
    /// <param name="delivery">The revision.</param>
    /// <param name="source">Its place among the sources.</param>
    /// <param name="party">Its party's code.</param>
    /// <param name="schema">Its schema, for subtypes.</param>
    /// <param name="selection">The rules, with the storeys of the job's schedule (<see cref="Selection.On"/>).</param>
    /// <param name="cancel">Stops it.</param>
    public async Task<IReadOnlyList<ElementGroup>> GroupsAsync(
        Guid delivery, int source, string party, IfcSchema schema, Selection selection, CancellationToken cancel)
    {
        await db.Database.OpenConnectionAsync(cancel);
        var connection = (NpgsqlConnection)db.Database.GetDbConnection();
        await using var command = new NpgsqlCommand { Connection = connection };
        command.Parameters.Add(new NpgsqlParameter { Value = delivery });
        var conditions = new List<string>();
        foreach (var rule in selection.Rules) conditions.Add(await ConditionAsync(rule, delivery, source, party, schema, command, cancel));
        string matches = conditions.Count == 0 ? "ARRAY[]::boolean[]" : $"ARRAY[{string.Join(", ", conditions)}]";
        command.CommandText =
            $"SELECT storey, class, box IS NOT NULL, {matches}, count(*)::integer FROM elements WHERE revision_id = $1 GROUP BY 1, 2, 3, 4";
        var groups = new List<ElementGroup>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
            groups.Add(new ElementGroup(reader.GetInt32(0), reader.GetString(1), reader.GetBoolean(2),
                reader.GetFieldValue<bool[]>(3), reader.GetInt32(4)));
        return groups;
    }

    private async Task<string> ConditionAsync(SelectionRule rule, Guid delivery, int source, string party, IfcSchema schema,
        NpgsqlCommand command, CancellationToken cancel)
    {
        string Parameter(object value)
        {
            command.Parameters.Add(new NpgsqlParameter { Value = value });
            return $"${command.Parameters.Count}";
        }

        var nothing = new SelectionSubject(schema, "", "", [], "") { Source = source, Party = party };
        switch (rule.Field)
        {
            case SelectionField.Storey:
                var storeys = await db.Levels.Where(l => l.RevisionId == delivery)
                    .Select(l => new { l.Number, l.Name }).ToListAsync(cancel);
                int[] numbers = [.. storeys.Append(new { Number = -1, Name = "" })
                    .Where(l => rule.Matches(nothing with { StoreyNumber = l.Number, Storey = l.Name })).Select(l => l.Number)];
                return $"storey = ANY({Parameter(numbers)})";
            case SelectionField.Class:
                var classes = await db.Facets.Where(f => f.RevisionId == delivery).Select(f => f.Class).Distinct().ToListAsync(cancel);
                return $"class = ANY({Parameter(classes.Where(c => rule.Matches(nothing with { Class = c })).ToArray())})";
            case SelectionField.Layer:
                var layers = await NamesAsync("layers", delivery, cancel);
                return Overlap("layers", layers.Where(l => rule.Matches(nothing with { Layers = [l] })).ToArray(), rule.Matches(nothing));
            case SelectionField.Material:
                var materials = await NamesAsync("materials", delivery, cancel);
                return Overlap("materials", materials.Where(m => rule.Matches(nothing with { Materials = [m] }))
                    .ToArray(), rule.Matches(nothing));
            case SelectionField.Type:
                var types = await db.Elements.Where(e => e.RevisionId == delivery).Select(e => e.TypeName).Distinct().ToListAsync(cancel);
                return $"type_name = ANY({Parameter(types.Where(t => rule.Matches(nothing with { Type = t })).ToArray())})";
            case SelectionField.Party:
                return rule.Matches(nothing) ? "true" : "false";
            case SelectionField.Property:
                return await PropertyAsync(rule, delivery, nothing, Parameter, cancel);
            default:
                return $"global_id = ANY({Parameter(rule.Values.ToArray())})";
        }

        string Overlap(string column, string[] names, bool none) =>
            $"({column} && {Parameter(names)}{(none ? $" OR {column} = '{{}}'" : "")})";
    }

    // Which sets hold a value that matches; of a rule for missing or blank, which hold one that is neither.
    private async Task<string> PropertyAsync(SelectionRule rule, Guid delivery, SelectionSubject nothing, Func<object,
        string> parameter, CancellationToken cancel)
    {
        int[] Numbers(Func<IReadOnlyList<string>, bool> wanted, List<(int Number, IReadOnlyList<string> Texts)> sets) =>
            [.. sets.Where(s => wanted(s.Texts)).Select(s => s.Number)];
        var found = new List<(int, IReadOnlyList<string>)>();
        for (int dot = rule.Key.IndexOf('.', StringComparison.Ordinal); dot > 0; dot = rule.Key.IndexOf('.', dot + 1))
        {
            string set = rule.Key[..dot].ToLowerInvariant(), property = rule.Key[(dot + 1)..];
            var rows = await db.PropertySets.AsNoTracking().Where(p => p.RevisionId == delivery && p.Name.ToLower() == set)
                .Select(p => new { p.Number, p.Values }).ToListAsync(cancel);
            found.AddRange(rows.Select(r => (r.Number, PropertySetStore.Texts(r.Values, property))));
        }

        return rule.Values.Count == 0
            ? $"NOT (sets && {parameter(Numbers(t => t.Any(v => v.Length > 0), found))})"
            : $"sets && {parameter(Numbers(t => rule.Matches(nothing with { Property = _ => t }), found))}";
    }

    private Task<List<string>> NamesAsync(string column, Guid delivery, CancellationToken cancel) => column == "layers"
        ? db.Database.SqlQuery<string>($"SELECT DISTINCT unnest(layers) AS \"Value\" FROM elements WHERE revision_id = {delivery}")
        .ToListAsync(cancel)
        : db.Database.SqlQuery<string>($"SELECT DISTINCT unnest(materials) AS \"Value\" FROM elements WHERE revision_id = {delivery}")
        .ToListAsync(cancel);
}
