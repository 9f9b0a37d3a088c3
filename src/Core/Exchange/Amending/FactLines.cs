using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>The facts of an element as lines that two readings can be compared by, without those that amendments are about.</summary>
internal static class FactLines
{
    /// <summary>The lines; what each is comes first, before a tab.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="element">The element.</param>
    /// <param name="amendments">The amendments of the element that were applied.</param>
    public static IReadOnlySet<string> Of(
        ModelSnapshot snapshot,
        ModelElement element,
        IReadOnlyList<Amendment> amendments
    )
    {
        var facts = ElementFacts.Read(snapshot, element);
        bool Amended(AmendmentKind kind) => amendments.Any(a => a.Kind == kind);
        var lines = new HashSet<string>(StringComparer.Ordinal);
        // Another class may need another type, and a type brings properties, materials and classifications of its own.
        bool type = Amended(AmendmentKind.Type) || Amended(AmendmentKind.Class);
        void Add(string what, string value, params AmendmentKind[] unless)
        {
            if (!unless.Any(Amended))
                lines.Add($"{what}\t{value}");
        }

        Add("class", facts.Class, AmendmentKind.Class);
        Add("predefined type", facts.PredefinedType, AmendmentKind.Class, AmendmentKind.Type);
        Add("name", facts.Name, AmendmentKind.Name);
        Add("mark", facts.Tag, AmendmentKind.Mark, AmendmentKind.Class);
        Add("description", facts.Description, AmendmentKind.Description);
        Add("type", $"{facts.TypeClass} {facts.TypeName}", AmendmentKind.Type, AmendmentKind.Class);
        Add("storey", $"{facts.Storey} {facts.Container}", AmendmentKind.Storey);
        foreach (string layer in facts.Layers)
            Add("layer", layer, AmendmentKind.Layer);
        if (!type)
            foreach (var material in facts.Materials)
                Add("material", $"{material.Name} {material.Thickness} {material.Role}", AmendmentKind.Material);
        if (!type)
            foreach (var use in facts.Classifications)
                if (!amendments.Any(a => a.Kind == AmendmentKind.Classification && a.Set == use.System))
                    lines.Add($"classification\t{use.System} {use.Code} {use.Name}");
        foreach (string group in snapshot.GroupNames(element))
            if (!amendments.Any(a => a.Kind is AmendmentKind.Zone or AmendmentKind.System && a.Name == group))
                lines.Add($"group\t{group}");
        foreach (var set in facts.Sets.Where(s => !type || !s.FromType))
        {
            if (amendments.Any(a => a.Kind == AmendmentKind.RemoveSet && a.Set == set.Name))
                continue;
            foreach (var p in set.Properties)
                if (!amendments.Any(a => IsAbout(a, set, p)))
                    lines.Add($"{set.Name}.{p.Name}\t{p.Value} {p.Measure} {p.Unit}");
        }

        return lines;
    }

    private static bool IsAbout(Amendment a, PropertySet set, Property property) =>
        a.Kind is AmendmentKind.Property or AmendmentKind.RemoveProperty
        && a.Set == set.Name
        && a.Name == property.Name;
}
