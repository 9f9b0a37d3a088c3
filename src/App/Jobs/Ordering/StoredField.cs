using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Where the names of a rule's field are stored: what a new field needs beside its entry in <see cref="RuleField"/>.</summary>
/// <param name="Expression">The column of <c>elements</c>, or an expression of its columns.</param>
/// <param name="IsList">Whether it has several names of one element (<c>text[]</c>), or one (<c>text</c>).</param>
/// <param name="Named">A subject with these names and nothing else.</param>
internal sealed record StoredField(
    string Expression,
    bool IsList,
    Func<SelectionSubject, string[], SelectionSubject> Named
)
{
    private static readonly Dictionary<RuleField, StoredField> Fields = new()
    {
        [RuleField.Type] = new("type_name", false, (s, n) => s with { Type = n.Length == 0 ? "" : n[0] }),
        [RuleField.Layer] = new("layers", true, (s, n) => s with { Layers = n }),
        [RuleField.Material] = new("materials", true, (s, n) => s with { Materials = n }),
        [RuleField.Classification] = new("classifications", true, (s, n) => s with { Classifications = n }),
        [RuleField.Group] = new("groups", true, (s, n) => s with { Groups = n }),
    };

    /// <summary>Where a field is stored; null where its condition is of another kind.</summary>
    public static StoredField? Of(RuleField field) => Fields.GetValueOrDefault(field);

    /// <summary>Says where one more field is stored.</summary>
    public static void Add(RuleField field, string expression, bool isList) =>
        Fields.Add(field, new StoredField(expression, isList, (s, n) => s with { Further = _ => n }));

    // An expression cannot be a parameter; it comes from the table above alone, never from a request.
#pragma warning disable EF1002
    /// <summary>The names that elements of a revision have.</summary>
    public IQueryable<string> NamesIn(LintelDb db, Guid revision) =>
        db.Database.SqlQueryRaw<string>(
            $"SELECT DISTINCT {Each} AS \"Value\" FROM elements WHERE revision_id = {{0}}",
            revision
        );

    /// <summary>The names that elements of some revisions have, with how many have each, the most frequent first.</summary>
    public IQueryable<NamedCount> CountedIn(LintelDb db, Guid[] revisions, int most) =>
        db.Database.SqlQueryRaw<NamedCount>(
            $$"""
            SELECT name AS "Name", count(*)::integer AS "Count"
            FROM (SELECT {{Each}} AS name FROM elements WHERE revision_id = ANY({0})) AS named
            WHERE name <> '' GROUP BY name ORDER BY count(*) DESC, name LIMIT {1}
            """,
            revisions,
            most
        );
#pragma warning restore EF1002

    private string Each => IsList ? $"unnest({Expression})" : Expression;
}
