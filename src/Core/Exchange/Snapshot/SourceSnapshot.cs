using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>One thing of a source that the job handles by itself: an element of a model, an entity of a drawing.</summary>
/// <param name="number">Its place among the source's things, from 0.</param>
/// <param name="storey">The number of its storey in the source, -1 when it is in none.</param>
public abstract class SourceItem(int number, int storey)
{
    /// <summary>Its place among the source's things, from 0.</summary>
    public int Number => number;

    /// <summary>The number of its storey in the source, -1 when it is in none; drawings have no storeys of their own.</summary>
    public int Storey => storey;

    /// <summary>What it is known by from revision to revision: the GlobalId of an element, the handle (hexadecimal) of an entity.</summary>
    public abstract string Id { get; }

    /// <summary>The class of an element as the standard spells it; the kind of an entity as DXF spells it.</summary>
    public abstract string Class { get; }

    /// <summary>The name of an element, the text of a text; empty when unset.</summary>
    public abstract string Name { get; }

    /// <summary>Its layers; an entity has one.</summary>
    public abstract IReadOnlyList<string> Layers { get; }
}

/// <summary>What a file holds, in the words of the job; read from a model by <see cref="ModelSnapshot"/>, from a drawing by
/// <see cref="DrawingSnapshot"/>.</summary>
/// <remarks>Selection asks this and nothing else, so that a rule means the same in models and drawings.</remarks>
public abstract class SourceSnapshot
{
    /// <summary>The things, in file order.</summary>
    public abstract IReadOnlyList<SourceItem> Items { get; }

    /// <summary>The schema, for subtypes of classes; null for drawings, whose kinds have none.</summary>
    public abstract IfcSchema? Schema { get; }

    /// <summary>The storey's name, empty for -1.</summary>
    public abstract string StoreyName(int storey);

    /// <summary>The name of an element's type, of the block an insert shows; empty without one.</summary>
    public abstract string TypeName(SourceItem item);

    /// <summary>The names of an element's materials; none of an entity.</summary>
    public abstract IReadOnlyList<string> MaterialNames(SourceItem item);

    /// <summary>Property sets and quantities of an element; the attributes of an insert as one set.</summary>
    public abstract IReadOnlyList<PropertySet> PropertySets(SourceItem item);

    /// <summary>The predefined type of an element, or of its type; empty without one.</summary>
    public virtual string Predefined(SourceItem item) => "";

    /// <summary>The codes and names of an element's classifications.</summary>
    public virtual IReadOnlyList<string> ClassificationNames(SourceItem item) => [];

    /// <summary>The names of the groups that an element is in: systems, zones and others.</summary>
    public virtual IReadOnlyList<string> GroupNames(SourceItem item) => [];

    /// <summary>The elements that an element is part of, nearest first; none where it belongs to no assembly.</summary>
    public virtual IReadOnlyList<SourceItem> Wholes(SourceItem item) => [];

    /// <summary>The body of an element; null without one.</summary>
    public virtual ItemBody? BodyOf(SourceItem item) => null;
}

/// <summary>What rules ask of a body, in its source's frame.</summary>
/// <param name="Box">Its box along the axes of its source, metres.</param>
/// <param name="Bearing">The direction it runs in, degrees clockwise from the Y axis; null where it runs in none.</param>
/// <param name="Size">The longest side along its own axes, metres.</param>
public readonly record struct ItemBody(Geometry.Box Box, double? Bearing, double Size);
