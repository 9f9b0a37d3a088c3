using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Whether products are where the ordered frame puts them, and units, true north and the map agree.</summary>
/// <param name="accounts">The source.</param>
/// <param name="again">The written model.</param>
/// <param name="found">The source's instances in it.</param>
/// <param name="move">From where the source is to where the file has it, metres; null when it stays.</param>
/// <param name="differ">Told of each difference.</param>
internal sealed class PlaceCheck(
    SourceAccounts accounts,
    ModelSnapshot again,
    IReadOnlyList<int> found,
    Frame? move,
    Action<string> differ
)
{
    // Metres, and the last digits of coordinates written with fifteen.
    private const double Near = 1e-6,
        Relative = 1e-13,
        Straight = 1e-9;
    private readonly ModelSnapshot _source = accounts.Snapshot;

    /// <summary>Checks what the rewrites of a source can have touched.</summary>
    /// <param name="rewrites">The rewrites.</param>
    /// <param name="owner">Whether the file's project, units and map are this source's.</param>
    public void Check(RewriteSet rewrites, bool owner)
    {
        // Untouched placements came byte for byte and need no look.
        if (rewrites.All.Count == 0)
            return;
        int assignment = _source.Units.Assignment;
        if (!(Math.Abs(again.Units.Metres - rewrites.Metres) <= 1e-12 * rewrites.Metres))
        {
            if (assignment >= 0)
                accounts.Put(assignment, LedgerAccount.Unaccounted);
            differ(
                FormattableString.Invariant(
                    $"the length unit was to be {rewrites.Metres} m and is {again.Units.Metres} m."
                )
            );
        }

        foreach (int product in _source.Model.OfType("IfcProduct"))
            if (found[product] >= 0 && !IsPlaced(product))
            {
                accounts.Displaced.Add(product);
                differ($"{accounts.Label(product)} is not where it was to be.");
            }

        if (owner)
            CheckMap();
        if (owner)
            CheckNorth();
    }

    private bool IsPlaced(int product)
    {
        if (
            _source.Model.Ref(product, "ObjectPlacement") < 0
            && (move is null || _source.Model.Ref(product, "Representation") < 0)
        )
            return true;
        try
        {
            var before = _source.Shapes.Placements.Product(product);
            if (move is { } moved)
                before = moved.Compose(before);
            var after = again.Shapes.Placements.Product(found[product]);
            return Off(before.Origin, after.Origin) <= Near + (Relative * before.Origin.Length)
                && Off(before.X, after.X) <= Straight
                && Off(before.Z, after.Z) <= Straight;
        }
        catch (ShapeException)
        {
            // A placement that cannot be read is compared as text only.
            return true;
        }
    }

    private static double Off(Vec3 a, Vec3 b) => (a - b).Length;

    // Three points that came to lie somewhere on the map must still come to lie there.
    private void CheckMap()
    {
        var before = GeoReference.Read(_source.Model, _source.Structure, _source.Units);
        if (before.Kind != "IfcMapConversion")
            return;
        var after = GeoReference.Read(again.Model, again.Structure, again.Units);
        var (was, now) = (Map(before), Map(after));
        var moved = move ?? Frame.Identity;
        Vec3[] points = [Vec3.Zero, Vec3.AxisX * 100, Vec3.AxisY * 100];
        if (after.Kind == before.Kind && points.All(p => Off(was.Point(p), now.Point(moved.Point(p))) <= 1e-5))
            return;
        foreach (int conversion in _source.Model.OfType("IfcMapConversion"))
        {
            if (found[conversion] < 0)
                continue;
            accounts.Put(conversion, LedgerAccount.Unaccounted);
            differ($"{accounts.Label(conversion)} leads to another place on the map.");
        }
    }

    private static Frame Map(GeoReference g)
    {
        var turned = FrameRewrite.Move(new Vec3(g.Eastings, g.Northings, g.Height), g.RotationDegrees);
        return turned with { X = turned.X * g.Scale, Y = turned.Y * g.Scale, Z = turned.Z * g.Scale };
    }

    private void CheckNorth()
    {
        if (move is not { } moved)
            return;
        foreach (int context in _source.Model.OfType("IfcGeometricRepresentationContext"))
        {
            if (found[context] < 0 || _source.Model.Is(context, "IfcGeometricRepresentationSubContext"))
                continue;
            var was = moved
                .Direction(
                    new IfcPlacements(_source.Model, 1).Direction(_source.Model.Ref(context, "TrueNorth"), Vec3.AxisY)
                )
                .Unit();
            var now = new IfcPlacements(again.Model, 1)
                .Direction(again.Model.Ref(found[context], "TrueNorth"), Vec3.AxisY)
                .Unit();
            if (Off(was, now) <= Straight)
                continue;
            accounts.Put(context, LedgerAccount.Unaccounted);
            differ($"{accounts.Label(context)}: true north is not as expected.");
        }
    }
}
