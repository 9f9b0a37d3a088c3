using System.Globalization;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>What a plan writes into a room: its name and the area of its outline.</summary>
internal static class RoomText
{
    /// <summary>The words and their middle; null where the plane does not cut the room.</summary>
    /// <param name="snapshot">The model.</param>
    /// <param name="room">The room.</param>
    /// <param name="outlines">Where the plane cuts it, metres; closed ones repeat their first point.</param>
    public static (string Words, Vec2 At)? Of(
        ModelSnapshot snapshot,
        ModelElement room,
        IReadOnlyList<IReadOnlyList<Vec2>> outlines
    )
    {
        var areas = outlines
            .Where(o => o.Count > 3)
            .Select(o => (Outline: o, Area: Region.SignedArea([.. o])))
            .ToList();
        if (areas.Count == 0)
            return null;
        // Inner outlines run the other way round.
        double area = Math.Abs(areas.Sum(a => a.Area));
        var largest = areas.MaxBy(a => Math.Abs(a.Area)).Outline;
        string name = string.Join(
            " ",
            new[] { room.Name, snapshot.Model.Text(room.Index, "LongName") ?? "" }.Where(n => n.Length > 0).Distinct()
        );
        var middle = new Vec2(largest.Skip(1).Average(p => p.X), largest.Skip(1).Average(p => p.Y));
        return ($"{name} {area.ToString("0.0", CultureInfo.InvariantCulture)} m²".Trim(), middle);
    }
}
