using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Holds where things lie in a written drawing against where the placing says they must: points of every entity of model space,
/// taken before it was placed, against the same points of what is read again.</summary>
internal sealed class PlaceTest
{
    private const int MostPoints = 64;
    private const double Even = 1e-9;
    private readonly Dictionary<Handle, (string Type, Vec3[] Points)> _before;
    private readonly InsertTransform _map;

    /// <summary>Takes the points.</summary>
    /// <param name="drawing">The drawing before it is placed.</param>
    /// <param name="map">The placing.</param>
    public PlaceTest(Drawing drawing, InsertTransform map)
    {
        _map = map;
        _before = drawing
            .Model.Entities.DistinctBy(e => e.Handle)
            .ToDictionary(e => e.Handle, e => (e.Type, Points(drawing, e)));
    }

    /// <summary>Compares.</summary>
    /// <param name="again">What was read again.</param>
    /// <param name="gone">What a rule left out after the points were taken, by handle.</param>
    /// <param name="differ">Told of the first differences.</param>
    public ReconciliationCheck Compare(Drawing again, IReadOnlySet<Handle> gone, Action<string> differ)
    {
        int same = 0,
            other = 0;
        double largest = 0;
        var within = again.Model.Entities.OfType<Insert>().ToLookup(i => i.Block);
        foreach (var (entity, at) in Found(again, within))
        {
            if (
                gone.Contains(entity.Handle)
                || !_before.TryGetValue(entity.Handle, out var before)
                || before.Type != entity.Type
            )
                continue;
            var now = Points(again, entity);
            double off = now.Length != before.Points.Length ? double.PositiveInfinity : 0,
                size = 1;
            for (int i = 0; i < now.Length && double.IsFinite(off); i++)
            {
                Vec3 expected = _map.Apply(before.Points[i]),
                    found = at.Apply(now[i]);
                size = Math.Max(
                    size,
                    Math.Max(Math.Abs(expected.X), Math.Max(Math.Abs(expected.Y), Math.Abs(expected.Z)))
                );
                off = Math.Max(off, (expected - found).Length);
            }

            largest = Math.Max(largest, double.IsFinite(off) ? off : 0);
            if (off <= Even * size * 10)
            {
                same++;
                continue;
            }

            other++;
            differ(
                $"{entity.Type} {entity.Handle} is not where the placing puts it{(double.IsFinite(off) ? $", {off:G3} off" : "")}."
            );
        }

        return new ReconciliationCheck("place (drawing units)", same, other, largest);
    }

    // Model space, and what was put into a block to be placed, through its insert.
    private IEnumerable<(Entity Entity, InsertTransform At)> Found(Drawing again, ILookup<Handle, Insert> inserts)
    {
        foreach (var entity in again.Model.Entities)
            yield return (entity, InsertTransform.Identity);
        foreach (
            var block in again.Blocks.Where(b => !b.IsSpace && b.Entities.Exists(e => _before.ContainsKey(e.Handle)))
        )
        foreach (var insert in inserts[block.Handle].Take(1))
        foreach (var entity in block.Entities)
            yield return (entity, InsertTransform.All(insert, block, 1).First());
    }

    private static Vec3[] Points(Drawing drawing, Entity entity)
    {
        IEnumerable<Vec3> points = entity switch
        {
            Insert e => drawing.Blocks[e.Block] is { } block
                ? InsertTransform
                    .All(e, block, 1)
                    .SelectMany(p => (Vec3[])[p.Origin, p.Origin + p.X, p.Origin + p.Y, p.Origin + p.Z])
                : [ObjectCoordinates.ToWorld(e.Location, e.Normal)],
            // A circle begins nowhere: its middle, and a radius along its axis.
            Circle e =>
            [
                ObjectCoordinates.ToWorld(e.Centre, e.Normal),
                ObjectCoordinates.ToWorld(e.Centre, e.Normal) + (e.Normal.Unit() * e.Radius),
            ],
            Polyline { Kind: not PolylineKind.Flat } e => e.Vertices.Where(v => !v.IsFace).Select(v => v.Location),
            Dimension e => Measured(e),
            Hatch e => HatchArea.Loops(e, InsertTransform.Identity).SelectMany(l => l),
            Solid e => e.Corners.Select(c => ObjectCoordinates.ToWorld(c, e.Normal)),
            MeshEntity e => e.Points,
            TextEntity e => TextReach.Of(e),
            MText e => TextReach.Of(e),
            Point e => [e.Location],
            Ray e => [e.Start],
            Table e => [e.Location],
            _ => EntityPoints.Of(entity),
        };
        return [.. points.Take(MostPoints)];
    }

    private static Vec3[] Measured(Dimension e) =>
        [
            e.Definition,
            ObjectCoordinates.ToWorld(e.TextMiddle, e.Normal),
            .. e.Kind is DimensionKind.Radius or DimensionKind.Diameter
                ? (Vec3[])[e.Third]
                : [e.Points.First, e.Points.Second],
        ];
}
