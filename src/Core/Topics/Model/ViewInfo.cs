using SteadyLintel.Geometry;

namespace SteadyLintel.Topics;

/// <summary>Where to stand, what is visible and how: a <c>.bcfv</c>. Points are metres in the frame of the models it was made
/// on.</summary>
public sealed record ViewInfo
{
    /// <summary>Its GUID; null where the file has none.</summary>
    public string? Guid { get; init; }

    /// <summary>The selected components.</summary>
    public IReadOnlyList<ViewComponent> Selection { get; init; } = [];

    /// <summary>What is visible; null where the file does not say.</summary>
    public ViewVisibility? Visibility { get; init; }

    /// <summary>Coloured components.</summary>
    public IReadOnlyList<ViewColour> Colouring { get; init; } = [];

    /// <summary>A camera with perspective; its extent is the vertical field of view in degrees.</summary>
    public ViewCamera? Perspective { get; init; }

    /// <summary>A parallel camera; its extent is the height of the view in metres.</summary>
    public ViewCamera? Orthogonal { get; init; }

    /// <summary>Lines drawn in the view.</summary>
    public IReadOnlyList<(Vec3 Start, Vec3 End)> Lines { get; init; } = [];

    /// <summary>Planes that cut; the direction points to what is cut away.</summary>
    public IReadOnlyList<(Vec3 Location, Vec3 Direction)> ClippingPlanes { get; init; } = [];

    /// <summary>Pictures within the model.</summary>
    public IReadOnlyList<ViewBitmap> Bitmaps { get; init; } = [];

    /// <summary>What else it has.</summary>
    public Extras Extras { get; init; } = Extras.None;

    /// <summary>What else its components have.</summary>
    public Extras ComponentExtras { get; init; } = Extras.None;
}
