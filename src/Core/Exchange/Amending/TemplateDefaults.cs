namespace SteadyLintel.Exchange;

/// <summary>Fills in the defaults of templates.</summary>
public static class TemplateDefaults
{
    /// <summary>An amendment for each property that has a default and no value, in the model or among the amendments.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="template">The template.</param>
    /// <param name="known">Amendments that are made anyway.</param>
    public static IReadOnlyList<Amendment> Of(
        ModelSnapshot snapshot,
        TemplateDocument template,
        IEnumerable<Amendment> known
    )
    {
        if (!template.Sets.Any(s => s.Properties.Any(p => p.Default.Length > 0)))
            return [];
        var subjects = known.Select(a => a.Subject).ToHashSet(StringComparer.Ordinal);
        var filled = new List<Amendment>();
        foreach (var (element, set, property, found) in TemplateCheck.Wanted(snapshot, template))
        {
            if (property.Default.Length == 0 || found is { Value.Length: > 0 })
                continue;
            var amendment = new Amendment
            {
                Element = element.GlobalId,
                Set = set.Name,
                Name = property.Name,
                Value = property.Default,
                Type = property.Type,
                Form = property.Form,
                Unit = property.Unit.Length > 0 ? property.Unit : null,
                Why = "default of the template",
                NotForExchange = property.NotForExchange ? true : null,
            };
            if (!subjects.Contains(amendment.Subject))
                filled.Add(amendment);
        }

        return filled;
    }
}
