namespace SteadyLintel.Cad;

/// <summary>The objects of a DWG by their places in the map, and the places by handle. Columns, so that most questions do not touch the
/// objects.</summary>
internal sealed class DwgObjects
{
    private readonly Slot<CadObject>[] _objects;
    private readonly Slot<Entity>[] _entities;
    private readonly Handle[] _owners;
    private readonly bool[] _compound;
    private readonly bool[] _placed;
    private readonly Handle[] _next;
    private readonly HandleTable<int> _places;
    private readonly bool _hasNull;

    /// <param name="map">The map of handles.</param>
    /// <param name="linked">Whether entities name the one behind them (up to 2000).</param>
    public DwgObjects(List<(Handle Handle, long Offset)> map, bool linked)
    {
        foreach (var (handle, _) in map)
        {
            if (handle.CompareTo(Greatest) > 0)
                Greatest = handle;
            _hasNull |= handle.IsNull;
        }

        (_entities, _owners, _compound) = (new Slot<Entity>[map.Count], new Handle[map.Count], new bool[map.Count]);
        (_objects, _placed, _next, _places) = (
            new Slot<CadObject>[map.Count],
            new bool[map.Count],
            new Handle[linked ? map.Count : 0],
            new HandleTable<int>(map.Count, Greatest)
        );
        // Of two with one handle the later counts.
        for (int i = 0; i < map.Count; i++)
            _places[map[i].Handle] = i + 1;
    }

    // An array of objects would look at the kind of each that is put into it; one of slots does not.
    private struct Slot<T>
    {
        public T? Item;
    }

    /// <summary>How many places there are.</summary>
    public int Count => _objects.Length;

    /// <summary>The greatest handle of the map.</summary>
    public Handle Greatest { get; }

    /// <summary>Whether every object has a handle, with others to be had above it.</summary>
    public bool AreNamed => !_hasNull && HandleCheck.LeavesRoom(Greatest);

    /// <summary>The object at a place; null where none could be read, or a mark or control is.</summary>
    public CadObject? this[int place] => _objects[place].Item;

    /// <summary>The object of a handle.</summary>
    public CadObject? this[Handle handle] => Place(handle) is >= 0 and var place ? _objects[place].Item : null;

    /// <summary>The place of a handle, or -1.</summary>
    public int Place(Handle handle) => _places[handle] - 1;

    /// <summary>Puts an object in its place; another of the same handle behind it makes it void.</summary>
    public void Put(int place, CadObject? item, Handle next)
    {
        if (_next.Length > 0)
            _next[place] = next;
        if (item is null || Place(item.Handle) != place)
            return;
        _objects[place].Item = item;
        if (item is not Entity entity)
            return;
        _entities[place].Item = entity;
        (_owners[place], _compound[place]) = (entity.Owner, entity is CompoundEntity { IsFollowed: true });
    }

    /// <summary>The entity at a place, or null.</summary>
    public Entity? Entity(int place) => _entities[place].Item;

    /// <summary>Whether an entity with parts behind it is at a place.</summary>
    public bool IsCompound(int place) => _compound[place];

    /// <summary>The owner an entity names.</summary>
    public Handle Owner(int place) => _owners[place];

    /// <summary>Gives an entity another owner than it names.</summary>
    public void Own(int place, Handle owner)
    {
        if (_owners[place] == owner)
            return;
        _owners[place] = owner;
        if (_entities[place].Item is { } entity)
            entity.Owner = owner;
    }

    /// <summary>The place of the entity behind one, or -1.</summary>
    public int Following(int place) => Place(_next[place]);

    /// <summary>Whether what is at a place has found its table or block.</summary>
    public bool IsSettled(int place) => _placed[place];

    /// <summary>Notes that what is at a place has found its table or block; whether it had none before.</summary>
    public bool Settle(int place) => !_placed[place] && (_placed[place] = true);
}
