using System.Text;
using SteadyLintel.Ifc;
using SteadyLintel.Step;

namespace SteadyLintel.Exchange;

/// <summary>An instance on its way into another file: its keyword and the text of each parameter.</summary>
/// <param name="index">The instance in the source.</param>
/// <param name="entity">Its entity in the source's schema.</param>
/// <param name="keyword">Its keyword.</param>
/// <param name="parts">Its parameters.</param>
public sealed class InstanceText(int index, EntityDef? entity, string keyword, List<string> parts)
{
    /// <summary>The instance in the source.</summary>
    public int Index { get; } = index;

    /// <summary>The entity whose attributes <see cref="Parts"/> are, position by position.</summary>
    public EntityDef? Entity { get; set; } = entity;

    /// <summary>The keyword to write; null drops the instance.</summary>
    public string? Keyword { get; set; } = keyword;

    /// <summary>The parameters in the standard's text form.</summary>
    public List<string> Parts { get; set; } = parts;

    /// <summary>The text between the parentheses.</summary>
    public string Inside => string.Join(",", Parts);

    /// <summary>The text of an attribute; <c>$</c> when the entity has none of that name.</summary>
    public string this[string attribute]
    {
        get => Position(attribute) is >= 0 and var p ? Parts[p] : "$";
        set
        {
            if (Position(attribute) is >= 0 and var p)
                Parts[p] = value;
        }
    }

    /// <summary>An instance as it is in a model.</summary>
    public static InstanceText Of(IfcModel model, int index)
    {
        var parts = new List<string>();
        foreach (var value in new StepItems(model.Record(index).Raw))
            parts.Add(Encoding.Latin1.GetString(value.Raw));
        return new InstanceText(index, model.Entity(index), model.File.TypeNames[model.File.TypeOf(index)], parts);
    }

    /// <summary>Parameters from the text between parentheses.</summary>
    public static List<string> Split(string inside)
    {
        var parts = new List<string>();
        foreach (var value in new StepItems(Encoding.Latin1.GetBytes(inside)))
            parts.Add(Encoding.Latin1.GetString(value.Raw));
        return parts;
    }

    private int Position(string attribute) => Entity?.Position(attribute) is >= 0 and var p && p < Parts.Count ? p : -1;
}
