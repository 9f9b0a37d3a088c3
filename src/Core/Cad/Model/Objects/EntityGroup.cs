namespace SteadyLintel.Cad;

/// <summary>GROUP: entities that are picked together.</summary>
public sealed class EntityGroup : CadObject
{
    /// <inheritdoc/>
    public override string Type => "GROUP";

    /// <summary>What it is (300).</summary>
    public string Description { get; set; } = "";

    /// <summary>Whether a program named it (70).</summary>
    public bool Unnamed { get; set; }

    /// <summary>Whether picking one picks all (71).</summary>
    public bool Selectable { get; set; } = true;

    /// <summary>The entities (340).</summary>
    public List<Handle> Members { get; } = [];

    /// <inheritdoc/>
    internal override void Exchange(Fields f)
    {
        f.Subclass("AcDbGroup");
        Description = f.Text(300, Description);
        Unnamed = f.Short(70, Unnamed ? 1 : 0) != 0;
        Selectable = f.Short(71, Selectable ? 1 : 0) != 0;
        int count = f.Dwg is { } d ? d.Count(Members.Count) : Members.Count;
        f.Items(Members, count, 340, h => f.Reference(340, h));
    }
}
