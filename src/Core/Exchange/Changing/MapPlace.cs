using SteadyLintel.Geometry;
using SteadyLintel.Ifc;

namespace SteadyLintel.Exchange;

/// <summary>Where a frame lies on the map.</summary>
/// <param name="Frame">From the frame into the map's eastings, northings and heights, metres, without the map's scale.</param>
/// <param name="Fixed">The point of the map about which its scale counts, metres.</param>
/// <param name="Scale">Metres on the map for a metre on the ground.</param>
/// <param name="System">The coordinate system's name.</param>
public sealed record MapPlace(Frame Frame, Vec3 Fixed, double Scale, string System)
{
    /// <summary>Where the job lies on the map, by one of its sources.</summary>
    /// <param name="place">What the source says.</param>
    /// <param name="settingOut">From the source's frame into the job's.</param>
    /// <returns>Null where the source has no map conversion.</returns>
    public static MapPlace? Of(GeoReference place, Frame settingOut)
    {
        if (place.Kind != "IfcMapConversion")
            return null;
        var at = new Vec3(place.Eastings, place.Northings, place.Height);
        return new MapPlace(
            FrameRewrite.Move(at, place.RotationDegrees).Compose(settingOut.Inverse()),
            at,
            place.Scale,
            place.System
        );
    }

    /// <summary>Where a model lies on the map.</summary>
    internal static MapPlace? Of(ModelSnapshot model, Frame settingOut) =>
        Of(GeoReference.Read(model.Model, model.Structure, model.Units), settingOut);

    /// <summary>What the map conversion of a model that lies at map coordinates adds: nothing, but for the map's scale.</summary>
    internal Vec3 Shift => Fixed * (1 - Scale);
}
