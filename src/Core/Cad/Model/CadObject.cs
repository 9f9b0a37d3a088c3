namespace SteadyLintel.Cad;

/// <summary>Anything with a handle: a table record, an entity, or an object of the drawing's dictionaries.</summary>
public abstract class CadObject
{
    private ObjectExtras? _extras;

    /// <summary>Its name within the drawing.</summary>
    public Handle Handle { get; set; }

    /// <summary>Who owns it: a block record for entities, a table for records.</summary>
    public Handle Owner { get; set; }

    /// <summary>The name in DXF: <c>LINE</c>, <c>LAYER</c>.</summary>
    public abstract string Type { get; }

    /// <summary>What few objects carry; made when asked for.</summary>
    public ObjectExtras Extras => _extras ??= new ObjectExtras();

    /// <summary>Whether there is anything in <see cref="Extras"/>.</summary>
    public bool HasExtras => _extras is not null;

    /// <summary>Takes the place of another: its handle, its owner and what few objects carry.</summary>
    internal void Replace(CadObject other) => (Handle, Owner, _extras) = (other.Handle, other.Owner, other._extras);

    /// <summary>Reads or writes the fields of the kind, in the order of the format.</summary>
    internal abstract void Exchange(Fields f);
}
