using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A plane that a building is cut with, and the way it is looked at.</summary>
/// <param name="ToView">From the order's frame into the view's, metres: X to the right, Y up on the paper, Z towards the viewer, zero in
/// the
/// cut.</param>
/// <param name="Depth">How far behind the cut one sees, metres; infinite for all.</param>
/// <param name="Height">The height that its lines have in the file, metres.</param>
/// <param name="Line">The line of a section; null for a plan.</param>
internal sealed record PlanView(Frame ToView, double Depth, double Height, SectionLine? Line)
{
    /// <summary>Whether it is a section or an elevation.</summary>
    public bool IsSection => Line is not null;

    /// <summary>The plan above a level.</summary>
    /// <param name="level">The level, metres in the order's frame.</param>
    /// <param name="work">How it is drawn.</param>
    public static PlanView Plan(double level, LineWork work) =>
        new(Frame.At(new Vec3(0, 0, -(level + work.Cut))), work.Depth ?? double.PositiveInfinity, level, null);

    /// <summary>The section along a line; X counts from the line's start, Y is the height in the order's frame.</summary>
    public static PlanView Section(SectionLine line, LineWork work)
    {
        var along = (line.To - line.From).Unit();
        Vec3 x = new(along.X, along.Y, 0),
            towards = x.Cross(Vec3.AxisZ);
        var frame = new Frame(new Vec3(line.From.X, line.From.Y, 0), x, Vec3.AxisZ, towards);
        return new PlanView(frame.Inverse(), line.Depth ?? work.Depth ?? double.PositiveInfinity, 0, line);
    }

    /// <summary>The height that a storey's plan counts from: its placement, else its elevation; in the source's frame, metres.</summary>
    public static double Level(ModelSnapshot snapshot, int storey)
    {
        if (storey < 0)
            return snapshot.Structure.Storeys.Count > 0 ? snapshot.Structure.Storeys[0].Level : 0;
        var found = snapshot.Structure.Storeys[storey];
        return found.PlacementZ ?? found.Level;
    }
}
