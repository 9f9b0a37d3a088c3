using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>Takes records of ACIS data value by value, for the text or the binary form.</summary>
internal abstract class AcisOutput
{
    /// <summary>The number of the first record of the body.</summary>
    public abstract int First { get; }

    /// <summary>Begins a record without attribute, history and pattern.</summary>
    public abstract void Begin(string kind);

    /// <summary>Names a record; -1 for none.</summary>
    public abstract void Link(int record);

    /// <summary>A double.</summary>
    public abstract void Number(double value);

    /// <summary>A point.</summary>
    public abstract void Position(Vec3 value);

    /// <summary>A direction.</summary>
    public abstract void Direction(Vec3 value);

    /// <summary>One of two words.</summary>
    public abstract void Either(bool value, string whenTrue, string whenFalse);

    /// <summary>A word.</summary>
    public abstract void Word(string word);

    /// <summary>A number only the binary form has.</summary>
    public virtual void OnlyBinary(int value) { }

    /// <summary>Ends a record.</summary>
    public abstract void End();
}
