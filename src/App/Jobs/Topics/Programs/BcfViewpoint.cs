using SteadyLintel.Geometry;
using SteadyLintel.Topics;

namespace SteadyLintel.Jobs;

/// <summary>A point or a direction.</summary>
public sealed record BcfPoint(double X, double Y, double Z)
{
    /// <summary>As it is sent.</summary>
    public static BcfPoint Of(Vec3 p) => new(p.X, p.Y, p.Z);

    /// <summary>As it is computed with.</summary>
    /// <exception cref="RefusedException">It was not sent.</exception>
    public static Vec3 Vector(BcfPoint? p) =>
        p is null
            ? throw new RefusedException(RefusalKind.Wrong, "A point or a direction is missing.")
            : new Vec3(p.X, p.Y, p.Z);
}

/// <summary>A camera; a field of view in degrees, or the height of a parallel view in metres.</summary>
public sealed record BcfCamera(
    BcfPoint CameraViewPoint,
    BcfPoint CameraDirection,
    BcfPoint CameraUpVector,
    double? FieldOfView,
    double? ViewToWorldScale,
    double? AspectRatio
)
{
    internal static BcfCamera? Of(ViewCamera? c, bool parallel) =>
        c is null
            ? null
            : new BcfCamera(
                BcfPoint.Of(c.ViewPoint),
                BcfPoint.Of(c.Direction),
                BcfPoint.Of(c.Up),
                parallel ? null : c.Extent,
                parallel ? c.Extent : null,
                c.AspectRatio
            );

    internal ViewCamera Camera() =>
        new(
            BcfPoint.Vector(CameraViewPoint),
            BcfPoint.Vector(CameraDirection),
            BcfPoint.Vector(CameraUpVector),
            FieldOfView ?? ViewToWorldScale ?? 60,
            AspectRatio
        );
}

/// <summary>A line in a view.</summary>
public sealed record BcfLine(BcfPoint StartPoint, BcfPoint EndPoint);

/// <summary>A plane that cuts.</summary>
public sealed record BcfPlane(BcfPoint Location, BcfPoint Direction);

/// <summary>A picture within the model.</summary>
public sealed record BcfBitmap(
    string? Guid,
    string BitmapType,
    string? BitmapData,
    BcfPoint Location,
    BcfPoint Normal,
    BcfPoint Up,
    double Height
);

/// <summary>The picture of a view; its bytes only where it is posted.</summary>
public sealed record BcfSnapshot(string SnapshotType, string? SnapshotData);

/// <summary>An element of a view.</summary>
public sealed record BcfComponent(string? IfcGuid, string? OriginatingSystem, string? AuthoringToolId)
{
    /// <summary>As it is sent.</summary>
    public static BcfComponent Of(ViewComponent c) => new(c.IfcGuid, c.OriginatingSystem, c.AuthoringToolId);

    internal ViewComponent Component() => new(IfcGuid, OriginatingSystem, AuthoringToolId);
}

/// <summary>Elements in a colour.</summary>
public sealed record BcfColoring(string Color, IReadOnlyList<BcfComponent> Components);

/// <summary>View setup hints.</summary>
public sealed record BcfHints(bool? SpacesVisible, bool? SpaceBoundariesVisible, bool? OpeningsVisible);

/// <summary>What is visible.</summary>
public sealed record BcfVisibility(
    bool? DefaultVisibility,
    IReadOnlyList<BcfComponent>? Exceptions,
    BcfHints? ViewSetupHints
);

/// <summary>The elements of a view.</summary>
public sealed record BcfComponents(
    IReadOnlyList<BcfComponent>? Selection,
    IReadOnlyList<BcfColoring>? Coloring,
    BcfVisibility? Visibility
);

/// <summary>A view as BCF API has it (3.0, viewpoint services; from memory).</summary>
public sealed record BcfViewpoint
{
    private const int MostComponents = 100_000;

    /// <summary>Its GUID.</summary>
    public string? Guid { get; init; }

    /// <summary>Place among the views.</summary>
    public int? Index { get; init; }

    /// <summary>A parallel camera.</summary>
    public BcfCamera? OrthogonalCamera { get; init; }

    /// <summary>A camera in perspective.</summary>
    public BcfCamera? PerspectiveCamera { get; init; }

    /// <summary>Lines.</summary>
    public IReadOnlyList<BcfLine>? Lines { get; init; }

    /// <summary>Planes that cut.</summary>
    public IReadOnlyList<BcfPlane>? ClippingPlanes { get; init; }

    /// <summary>Pictures within the model.</summary>
    public IReadOnlyList<BcfBitmap>? Bitmaps { get; init; }

    /// <summary>The picture.</summary>
    public BcfSnapshot? Snapshot { get; init; }

    /// <summary>Selection, colours, visibility; sent only where they are posted.</summary>
    public BcfComponents? Components { get; init; }

    /// <summary>A view as it is sent: its elements are asked for by addresses of their own.</summary>
    public static BcfViewpoint Of(Viewpoint v) =>
        new()
        {
            Guid = v.Guid,
            Index = int.TryParse(v.Index, null, out int index) ? index : null,
            PerspectiveCamera = BcfCamera.Of(v.Info?.Perspective, false),
            OrthogonalCamera = BcfCamera.Of(v.Info?.Orthogonal, true),
            Lines = [.. (v.Info?.Lines ?? []).Select(l => new BcfLine(BcfPoint.Of(l.Start), BcfPoint.Of(l.End)))],
            ClippingPlanes =
            [
                .. (v.Info?.ClippingPlanes ?? []).Select(p => new BcfPlane(
                    BcfPoint.Of(p.Location),
                    BcfPoint.Of(p.Direction)
                )),
            ],
            Bitmaps =
            [
                .. (v.Info?.Bitmaps ?? []).Select(
                    (b, n) =>
                        new BcfBitmap(
                            BitmapId(v, n),
                            b.Format,
                            null,
                            BcfPoint.Of(b.Location),
                            BcfPoint.Of(b.Normal),
                            BcfPoint.Of(b.Up),
                            b.Height
                        )
                ),
            ],
            Snapshot = v.Snapshot is { Length: > 0 } name
                ? new BcfSnapshot(name.EndsWith("png", StringComparison.OrdinalIgnoreCase) ? "png" : "jpg", null)
                : null,
        };

    /// <summary>A view as it is posted, with its elements and its pictures.</summary>
    /// <param name="v">The view.</param>
    /// <param name="picture">The content of a file of its topic; null where there is none.</param>
    public static BcfViewpoint Posted(Viewpoint v, Func<string, byte[]?> picture)
    {
        var info = v.Info;
        string? Data(string? name) =>
            name is { Length: > 0 } && picture(name) is { } bytes ? Convert.ToBase64String(bytes) : null;
        var view = Of(v);
        return view with
        {
            Snapshot = view.Snapshot is { } s && Data(v.Snapshot) is { } data ? s with { SnapshotData = data } : null,
            Bitmaps =
            [
                .. (view.Bitmaps ?? []).Select((b, n) => b with { BitmapData = Data(info?.Bitmaps[n].Reference) }),
            ],
            Components = info is null
                ? null
                : new BcfComponents(
                    [.. info.Selection.Select(BcfComponent.Of)],
                    [
                        .. info.Colouring.Select(c => new BcfColoring(
                            c.Colour ?? "",
                            [.. c.Components.Select(BcfComponent.Of)]
                        )),
                    ],
                    info.Visibility is { } seen
                        ? new BcfVisibility(
                            seen.Default,
                            [.. seen.Exceptions.Select(BcfComponent.Of)],
                            seen.Hints is { } h ? new BcfHints(h.Spaces, h.SpaceBoundaries, h.Openings) : null
                        )
                        : null
                ),
        };
    }

    /// <summary>What a view shows, and the files that come with it.</summary>
    /// <exception cref="RefusedException">It has no camera, too many elements, or a picture that is none.</exception>
    public (Viewpoint View, IReadOnlyList<TopicPart> Parts) Read()
    {
        string guid = System.Guid.TryParse(Guid, out var given) ? given.ToString() : System.Guid.NewGuid().ToString();
        if (Components?.Selection?.Count > MostComponents || Components?.Visibility?.Exceptions?.Count > MostComponents)
            throw new RefusedException(RefusalKind.Wrong, $"A view names at most {MostComponents} elements.");
        var parts = new List<TopicPart>();
        string? snapshot = Picture(Snapshot?.SnapshotData, $"snapshot-{guid}", parts);
        var bitmaps = Whole(Bitmaps)
            .Select(
                (b, n) =>
                    new ViewBitmap(
                        b.BitmapType,
                        Picture(b.BitmapData, $"bitmap-{guid}-{n}", parts),
                        BcfPoint.Vector(b.Location),
                        BcfPoint.Vector(b.Normal),
                        BcfPoint.Vector(b.Up),
                        b.Height
                    )
            )
            .ToList();
        var visibility = Components?.Visibility;
        var info = new ViewInfo
        {
            Guid = guid,
            Perspective = PerspectiveCamera?.Camera(),
            Orthogonal = OrthogonalCamera?.Camera(),
            Lines = [.. Whole(Lines).Select(l => (BcfPoint.Vector(l.StartPoint), BcfPoint.Vector(l.EndPoint)))],
            ClippingPlanes =
            [
                .. Whole(ClippingPlanes).Select(p => (BcfPoint.Vector(p.Location), BcfPoint.Vector(p.Direction))),
            ],
            Bitmaps = bitmaps,
            Selection = [.. Whole(Components?.Selection).Select(c => c.Component())],
            Colouring =
            [
                .. Whole(Components?.Coloring)
                    .Select(c => new ViewColour(
                        (c.Color ?? "").TrimStart('#'),
                        [.. Whole(c.Components).Select(x => x.Component())]
                    )),
            ],
            Visibility = visibility is null
                ? null
                : new ViewVisibility(
                    visibility.DefaultVisibility,
                    [.. Whole(visibility.Exceptions).Select(c => c.Component())],
                    visibility.ViewSetupHints is { } h
                        ? new ViewHints(h.SpacesVisible, h.SpaceBoundariesVisible, h.OpeningsVisible)
                        : null
                ),
        };
        return (
            new Viewpoint
            {
                Guid = guid,
                File = $"{guid}.bcfv",
                Snapshot = snapshot,
                Index = Index?.ToString(System.Globalization.CultureInfo.InvariantCulture),
                Info = info,
            },
            parts
        );
    }

    /// <summary>A list may be missing; what is in it may not.</summary>
    /// <exception cref="RefusedException">An entry is empty.</exception>
    public static IReadOnlyList<T> Whole<T>(IReadOnlyList<T>? list)
        where T : class =>
        list is null ? []
        : list.Any(x => x is null) ? throw new RefusedException(RefusalKind.Wrong, "A list has an empty entry.")
        : list;

    /// <summary>A bitmap has no GUID in files: its view's with its number.</summary>
    public static string BitmapId(Viewpoint v, int number) =>
        $"{v.Guid[..Math.Min(v.Guid.Length, 24)]}{number.ToString("x12", null)}";

    private static string? Picture(string? data, string name, List<TopicPart> parts)
    {
        if (data is null)
            return null;
        byte[] bytes;
        try
        {
            bytes = Convert.FromBase64String(data);
        }
        catch (FormatException)
        {
            throw new RefusedException(RefusalKind.Wrong, "The picture is not in Base64.");
        }

        string full = $"{name}.{TopicEditing.PictureKind(bytes)}";
        parts.Add(TopicPart.Of(full, bytes));
        return full;
    }
}
