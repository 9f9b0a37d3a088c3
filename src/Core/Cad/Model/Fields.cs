using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>
/// The fields of an object, one after the other. A reader answers with what the file says, a writer writes what it is given and answers the
/// same: each kind states
/// its fields once, for DXF and DWG, reading and writing.
/// </summary>
/// <remarks>
/// Fields with a group code are those both formats have; DWG ignores the code and goes by order, DXF goes by the code. A DXF writer leaves
/// out a field that has its
/// <c>omit</c> value; a DXF reader that misses a field answers with what it was given, so properties start with the default of the DXF
/// reference.
/// </remarks>
internal abstract class Fields
{
    /// <summary>The version of the file.</summary>
    public CadVersion Version { get; protected init; }

    /// <summary>Whether values come from a file.</summary>
    public abstract bool Reading { get; }

    /// <summary>The bits of DWG, or null for DXF.</summary>
    public virtual DwgFields? Dwg => null;

    /// <summary>Whether the version is this or newer.</summary>
    public bool Since(CadVersion version) => Version >= version;

    /// <summary>A subclass marker (100).</summary>
    public abstract void Subclass(string name);

    /// <summary>A double.</summary>
    public abstract double Double(int code, double value, double omit = double.NaN);

    /// <summary>An angle: radians here and in DWG, degrees in DXF.</summary>
    public abstract double Angle(int code, double value, double omit = double.NaN);

    /// <summary>A number of 16 bits.</summary>
    public abstract int Short(int code, int value, int omit = int.MinValue);

    /// <summary>A number of 32 bits.</summary>
    public abstract int Long(int code, int value, int omit = int.MinValue);

    /// <summary>A number of eight bits.</summary>
    public abstract int Byte(int code, int value, int omit = int.MinValue);

    /// <summary>True or false.</summary>
    public abstract bool Bit(int code, bool value, bool? omit = null);

    /// <summary>Text.</summary>
    public abstract string Text(int code, string value, string? omit = null);

    /// <summary>A point (code, code + 10, code + 20).</summary>
    public abstract Vec3 Point(int code, Vec3 value);

    /// <summary>A point in a plane, kept by DWG as two plain doubles.</summary>
    public abstract Vec2 Flat(int code, Vec2 value);

    /// <summary>The direction of extrusion (210), the Z axis when it is not said.</summary>
    public abstract Vec3 Normal(Vec3 value);

    /// <summary>The thickness (39).</summary>
    public abstract double Thickness(double value);

    /// <summary>A handle of another object.</summary>
    public abstract Handle Reference(int code, Handle value, HandleKind kind = HandleKind.HardPointer);

    /// <summary>A table record: by name in DXF, by handle in DWG.</summary>
    public abstract Handle Symbol(int code, Handle value, SymbolKind table, HandleKind kind = HandleKind.HardPointer);

    /// <summary>A colour by number; true colours under 420 and 430.</summary>
    public abstract CadColour Colour(int code, CadColour value);

    /// <summary>The items of a list. In DXF each begins with a group of <paramref name="startCode"/>; in DWG there are
    /// <paramref name="count"/>.</summary>
    public abstract void Items<T>(List<T> list, int count, int startCode, Func<T, T> item);

    /// <summary>In DXF: text that may be longer than a group holds, in pieces of 250 characters under one code and the last under
    /// another.</summary>
    /// <param name="code">The code of the pieces.</param>
    /// <param name="last">The code of the last.</param>
    /// <param name="value">The text.</param>
    public string Pieces(int code, int last, string value)
    {
        const int length = 250;
        var pieces = new List<string>();
        if (!Reading)
            for (int i = 0; i + length < value.Length; i += length)
                pieces.Add(value.Substring(i, length));
        int done = pieces.Count * length;
        Items(pieces, pieces.Count, code, p => Text(code, p ?? ""));
        string rest = Text(last, value[Math.Min(done, value.Length)..]);
        return Reading ? string.Concat(pieces) + rest : value;
    }

    /// <summary>A group of DXF that the model has no field for: written as given, unless the object brought its own; left for
    /// <see cref="ObjectExtras.Unread"/> when reading.</summary>
    public virtual void Fixed(int code, object value) { }

    /// <summary>In DXF of 2018: the groups of an object that the entity embeds, behind all its own (101).</summary>
    public virtual IReadOnlyList<CadGroup> Embedded(IReadOnlyList<CadGroup> groups) => groups;

    /// <summary>In a DXF reader: the next numbers under one code, from where the last field was found.</summary>
    public virtual void Take(int code, List<int> list, long count) { }

    /// <summary>All groups that are left, in order; DWG has them as a run of bytes.</summary>
    public abstract void Groups(List<CadGroup> groups);
}
