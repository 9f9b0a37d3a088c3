namespace SteadyLintel.Exchange;

/// <summary>What an edit changes.</summary>
public enum EditKind
{
    /// <summary>A storey's name.</summary>
    RenameStorey,

    /// <summary>A layer's name: what was on the one is on the other.</summary>
    MoveLayer,

    /// <summary>The class of elements; attributes the new class has too are carried over.</summary>
    ChangeClass,

    /// <summary>A property of elements: set where it is, added where it is not.</summary>
    SetProperty,

    /// <summary>The name of a material.</summary>
    RenameMaterial,

    /// <summary>The name of a type.</summary>
    RenameType,

    /// <summary>The name of a profile.</summary>
    RenameSection,
}

/// <summary>A change to a model.</summary>
/// <param name="Kind">What changes.</param>
/// <param name="From">The storey, layer or class it is about (a class means its subtypes too); for a property the class of the
/// elements.</param>
/// <param name="To">The new storey name, layer name or class; for a property its value as text.</param>
/// <param name="Set">For a property, the name of its set.</param>
/// <param name="Property">For a property, its name.</param>
public sealed record ModelEdit(EditKind Kind, string From, string To, string Set = "", string Property = "");
