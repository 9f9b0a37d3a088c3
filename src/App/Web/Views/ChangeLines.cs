using SteadyLintel.Exchange;
using SteadyLintel.Web.Pages.Jobs;

namespace SteadyLintel.Web;

/// <summary>A comparison as lines for people.</summary>
public static class ChangeLines
{
    /// <summary>The lines, by kind of change.</summary>
    /// <param name="changes">The comparison.</param>
    /// <param name="old">The older revision.</param>
    /// <param name="now">The newer.</param>
    /// <param name="storeys">The names of storeys by GlobalId.</param>
    public static IReadOnlyList<ChangeLine> Of(
        RevisionChanges changes,
        RevisionFingerprint old,
        RevisionFingerprint now,
        IReadOnlyDictionary<string, string> storeys
    )
    {
        var elements = now
            .Elements.Concat(old.Elements)
            .GroupBy(e => e.GlobalId)
            .ToDictionary(g => g.Key, g => g.First());
        var numbers = now
            .Elements.Select((e, n) => (e.GlobalId, n))
            .GroupBy(p => p.GlobalId)
            .ToDictionary(g => g.Key, g => g.First().n);
        var lines = new List<ChangeLine>();
        void Add(string change, string id, string detail)
        {
            var e = elements[id];
            lines.Add(
                new ChangeLine(
                    change,
                    id,
                    e.Class,
                    e.Name,
                    Storey(e.Storey),
                    detail,
                    change == "removed" ? -1 : numbers.GetValueOrDefault(id, -1)
                )
            );
        }

        string Storey(string key) => key.Length == 0 ? "no storey" : storeys.GetValueOrDefault(key, key);
        foreach (string id in changes.Added)
            Add("added", id, "");
        foreach (string id in changes.Removed)
            Add("removed", id, "");
        foreach (var m in changes.Moved)
            Add(
                "moved",
                m.GlobalId,
                $"{DisplayText.Length(m.By.X)}, {DisplayText.Length(m.By.Y)}, {DisplayText.Length(m.By.Z)}{(m.TurnDegrees >= 0.01 ? $"; turned {DisplayText.Real(m.TurnDegrees)}°" : "")}"
            );
        foreach (string id in changes.Reshaped)
            Add("reshaped", id, "");
        Words("of another class", changes.Reclassed, w => w);
        Words("of another type", changes.Retyped, w => w);
        Words("on other layers", changes.Relayered, Joined);
        Words("in another storey", changes.Restoreyed, Storey);
        Words("renamed", changes.Renamed, w => w);
        Words("of other materials", changes.Rematerialed, Joined);
        Words("of another predefined type", changes.Repredefined, w => w);
        Words("in other systems or zones", changes.Regrouped, Joined);
        Words("classified differently", changes.Reclassified, Joined);
        Words("related differently", changes.Related, Relations);
        Words("given a new GlobalId", changes.Reidentified, w => w);
        foreach (var a in changes.Ambiguous)
        foreach (string id in a.New)
            Add(
                "ambiguous",
                id,
                $"one of {a.New.Count} alike elements with new GlobalIds; before: {string.Join(", ", a.Old)}"
            );
        foreach (var p in changes.PropertiesChanged)
            Add("property changed", p.GlobalId, $"{p.Set}, {p.Property}: {Shown(p.Old)} → {Shown(p.New)}");
        return lines;

        string Relations(string lines) =>
            string.Join(
                "; ",
                lines
                    .Split('\n', StringSplitOptions.RemoveEmptyEntries)
                    .Select(l =>
                        l.Split(ElementRelations.Separator) is [var word, var id]
                            ? $"{DisplayText.Class(word["IfcRel".Length..]).ToLowerInvariant()} {(elements.TryGetValue(id, out var e) && e.Name.Length > 0 ? e.Name : id)}"
                            : l
                    )
            );

        void Words(string change, IEnumerable<ChangedWord> words, Func<string, string> say)
        {
            foreach (var w in words)
                Add(change, w.GlobalId, $"{Shown(say(w.Old))} → {Shown(say(w.New))}");
        }
    }

    private static string Joined(string lines) => lines.Replace("\n", " + ", StringComparison.Ordinal);

    private static string Shown(string? value) =>
        value switch
        {
            null => "none",
            "" => "blank",
            _ => value,
        };
}
