using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Where a drawing goes when it is written, and in which unit.</summary>
/// <param name="Map">From the drawing's units into those that are written.</param>
/// <param name="Unit">The unit it is written in; null for its own.</param>
public sealed record OutgoingPlace(InsertTransform Map, LengthUnit? Unit)
{
    /// <summary>The place of a drawing in a frame.</summary>
    /// <param name="frame">From the drawing's units into metres of the frame that is written, in plan.</param>
    /// <param name="unit">The unit to write; null for a unit as large as the drawing's own.</param>
    public static OutgoingPlace Of(Frame frame, LengthUnit? unit)
    {
        double scale = frame.X.Length,
            unitMetres = unit?.Metres ?? scale;
        double turn = Math.Atan2(frame.X.Y, frame.X.X);
        return new OutgoingPlace(DrawingPlacement.Map(scale / unitMetres, turn, frame.Origin * (1 / unitMetres)), unit);
    }

    /// <summary>The rule in words, for the balance.</summary>
    public string Rule =>
        string.Create(
            System.Globalization.CultureInfo.InvariantCulture,
            $"placed: scale {Map.X.Length:0.######}, rotated by {Math.Atan2(Map.X.Y, Map.X.X) * 180 / Math.PI:0.####}°, moved by {Map.Origin.X:0.###}, {Map.Origin.Y:0.###}, {Map.Origin.Z:0.###}"
        );
}
