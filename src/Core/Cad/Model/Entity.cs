namespace SteadyLintel.Cad;

/// <summary>Anything drawn, with what all entities share.</summary>
public abstract class Entity : CadObject
{
    /// <summary>The layer (8).</summary>
    public Handle Layer { get; set; }

    /// <summary>The line type (6); null by layer, <see cref="Drawing.ByBlock"/> by block.</summary>
    public Handle LineType { get; set; }

    /// <summary>The colour (62, 420, 430).</summary>
    public CadColour Colour { get; set; } = CadColour.ByLayer;

    /// <summary>The scale of the line type (48).</summary>
    public double LineTypeScale { get; set; } = 1;

    /// <summary>The line weight in 1/100 mm (370).</summary>
    public short LineWeight { get; set; } = LineWeights.ByLayer;

    /// <summary>Whether it is hidden (60).</summary>
    public bool Invisible { get; set; }

    /// <summary>Entities that belong to it and follow it: vertices, attributes.</summary>
    public virtual IReadOnlyList<Entity> Parts => [];

    /// <summary>Takes a part while reading; entities without parts refuse.</summary>
    internal virtual bool Adopt(Entity part) => false;
}
