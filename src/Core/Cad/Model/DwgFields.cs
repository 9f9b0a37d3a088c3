using SteadyLintel.Geometry;

namespace SteadyLintel.Cad;

/// <summary>The kinds of value only DWG has; names as in the Open Design specification, chapter 2 (from memory).</summary>
internal abstract class DwgFields : Fields
{
    /// <summary>How many items are made room for before they are there: a count comes from a stranger.</summary>
    protected const int MostAtOnce = 4096;

    /// <inheritdoc/>
    public override DwgFields Dwg => this;

    /// <summary>When reading: whether data and text are used up to their last bit.</summary>
    public virtual bool IsAtEnd => true;

    /// <summary>Whether the object has data in the store of the file, apart from its own bits.</summary>
    public bool HasStoredData { get; set; }

    /// <summary>BB: two bits.</summary>
    public abstract int TwoBits(int value);

    /// <summary>RC: a byte.</summary>
    public abstract int RawByte(int value);

    /// <summary>RS: two bytes.</summary>
    public abstract int RawShort(int value);

    /// <summary>RL: four bytes.</summary>
    public abstract int RawLong(int value);

    /// <summary>BLL: up to seven bytes after their number in three bits.</summary>
    public abstract long LongLong(long value);

    /// <summary>RD: eight bytes.</summary>
    public abstract double RawDouble(double value);

    /// <summary>DD: a double as what differs from another.</summary>
    public abstract double Default(double value, double other);

    /// <summary>Bytes, not aligned.</summary>
    public abstract byte[] Bytes(byte[] value, int count);

    /// <summary>BL: how many follow; a reader refuses more than the object has bits.</summary>
    public abstract int Count(int count);

    /// <summary>A count held against what the object has bits for.</summary>
    public abstract int Bounded(int count);

    /// <summary>BL.</summary>
    public int Long(int value) => Long(0, value);

    /// <summary>BS.</summary>
    public int Short(int value) => Short(0, value);

    /// <summary>BD.</summary>
    public double Double(double value) => Double(0, value);

    /// <summary>B.</summary>
    public bool Bit(bool value) => Bit(0, value);

    /// <summary>H.</summary>
    public Handle Handle(Handle value, HandleKind kind) => Reference(0, value, kind);

    /// <summary>3RD.</summary>
    public Vec3 RawPoint(Vec3 value) => new(RawDouble(value.X), RawDouble(value.Y), RawDouble(value.Z));

    /// <summary>2RD.</summary>
    public Vec2 RawPoint(Vec2 value) => new(RawDouble(value.X), RawDouble(value.Y));

    /// <summary>2BD.</summary>
    public Vec2 BitPoint(Vec2 value) => new(Double(value.X), Double(value.Y));

    /// <summary>2DD.</summary>
    public Vec2 Default(Vec2 value, Vec2 other) => new(Default(value.X, other.X), Default(value.Y, other.Y));

    /// <summary>A handle for every item.</summary>
    public void Handles(List<Handle> list, int count, HandleKind kind)
    {
        // Most objects have none; those with many would pay for a delegate each.
        if (count == 0)
            return;
        if (Reading)
            list.EnsureCapacity(list.Count + Math.Min(Bounded(count), MostAtOnce));
        for (int i = 0; i < count; i++)
        {
            var handle = Handle(i < list.Count && !Reading ? list[i] : default, kind);
            if (Reading)
                list.Add(handle);
        }
    }
}
