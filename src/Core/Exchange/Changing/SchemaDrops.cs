using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Finds the instances that another schema cannot take, those that cannot be without them, and those that served only
/// them.</summary>
internal sealed class SchemaDrops(IfcModel model, SchemaMap map, ShapeDownward shapes, Func<int, bool> kept)
{
    private readonly DropCascade _cascade = new(model, kept, shapes.Replaces, i => IsUnwrapped(model, i));

    /// <summary>Why an instance has no place.</summary>
    public DropReason Reason(int index) => _cascade.Reason(index);

    /// <summary>One flag an instance.</summary>
    public bool[] Find()
    {
        bool any = false;
        for (int i = 0; i < model.File.Count; i++)
        {
            if (!kept(i) || (model.Entity(i) is { } entity && (map.Entity(entity) is not null || shapes.Replaces(i))))
                continue;
            any = true;
            _cascade.Drop(i, IsUnwrapped(model, i) ? DropReason.Unwrapped : DropReason.NoEntity);
        }

        if (any || shapes.Any)
            _cascade.Follow();
        return _cascade.Dropped;
    }

    /// <summary>Whether an instance gives way to what it refers to: IFC4X3 has no style assignments, their styles are in their
    /// place.</summary>
    public static bool IsUnwrapped(IfcModel model, int index) => model.Is(index, "IfcPresentationStyleAssignment");
}
