using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>A drawing that takes part in a hand-over.</summary>
/// <param name="Party">The party's code.</param>
/// <param name="Label">What tells it from the party's other sources.</param>
/// <param name="Extension">Of its file, with the dot.</param>
/// <param name="Bytes">The original.</param>
/// <param name="SettingOut">Where it lies, in metres for its units; null while nobody has placed it.</param>
public sealed record HandoverDrawing(
    string Party,
    string Label,
    string Extension,
    byte[] Bytes,
    SettingOutDocument? SettingOut = null
)
{
    /// <summary>The number of its revision; 0 where nobody has numbered it.</summary>
    public int Revision { get; init; }

    /// <summary>The drawings it refers to, by <see cref="DrawingReferences.NameOf"/>.</summary>
    public IReadOnlyDictionary<string, byte[]> References { get; init; } = new Dictionary<string, byte[]>();

    /// <summary>How it is prepared, with the details that its steps place.</summary>
    public PreparationDocument Preparation { get; init; } = PreparationDocument.Empty;

    /// <summary>The name of the storey it lies at; empty for none.</summary>
    public string Storey { get; init; } = "";

    /// <summary>From its units into the job's metres, at the height of its storey; null while nobody has placed it.</summary>
    public Frame? Frame { get; init; } = SettingOut?.Frame;
}

/// <summary>How the drawing of a hand-over was accounted for.</summary>
/// <param name="Source">Which drawing.</param>
/// <param name="File">The written file.</param>
/// <param name="Rows">The balance by kind and layer; empty for an original.</param>
/// <param name="Steps">What each step did, the order's names of layers last.</param>
/// <param name="Ledger">Kind by kind, every thing in one of five accounts.</param>
/// <param name="Checks">What was measured.</param>
/// <param name="Differences">The first differences, a sentence each.</param>
/// <param name="Unaccounted">What nobody can account for.</param>
/// <param name="Balanced">Whether everything is accounted for and lies where it should.</param>
public sealed record DrawingBalance(
    string Source,
    string File,
    IReadOnlyList<ConversionRow> Rows,
    IReadOnlyList<StepResult> Steps,
    IReadOnlyList<LedgerLine> Ledger,
    IReadOnlyList<ReconciliationCheck> Checks,
    IReadOnlyList<string> Differences,
    int Unaccounted,
    bool Balanced
);

/// <summary>Hands drawings over beside models: prepared, named, placed in the order's frame and unit, or as they came.</summary>
public static class DrawingHandover
{
    /// <summary>Refuses what cannot be carried out, before anything is written.</summary>
    /// <exception cref="OrderException">A drawing is not placed, and the order needs to know where or how large it is.</exception>
    internal static void Check(HandoverOrder order, IReadOnlyList<HandoverDrawing> drawings)
    {
        if (!order.PlacesDrawings || drawings.Count == 0)
            return;
        if (drawings.FirstOrDefault(d => d.Frame is null) is { } loose)
            throw new OrderException(NotPlaced(loose.Label));
        if (order.Frame is { Kind: FrameKind.Party, Receiver: null })
            throw new OrderException(
                "Nothing says which frame the receiver draws in: set one of the party's sources out, or give its setting-out as a file."
            );
        if (order.Frame is { Kind: FrameKind.Map, Map: null })
            throw new OrderException(
                "No source states where the job is on the map: set out a source with a map conversion, or choose another frame."
            );
    }

    /// <summary>Says that an order has to know where a drawing lies, and nobody has said.</summary>
    public static string NotPlaced(string label) =>
        $"The scale and place of {label} are not set: set them under drawing preparation, or hand it over as received or in its own unit and frame.";

    /// <summary>Writes one drawing and reads it again.</summary>
    internal static (HandoverFile File, DrawingBalance Balance) Write(
        HandoverOrder order,
        HandoverDrawing drawing,
        FileNames names,
        IFileSet target,
        CancellationToken cancel
    )
    {
        var wish = order.Drawings!;
        if (wish.AsReceived)
            return Original(drawing, names.Next(NamesOf(drawing), drawing.Extension), target);
        var form = wish.FormOf(
            new CadForm(drawing.Extension.Equals(".dwg", StringComparison.OrdinalIgnoreCase), CadVersion.AC1027)
        );
        // Near the origin is the lower left corner of each drawing itself.
        var near =
            order.Frame.Kind == FrameKind.Local
                ? [new PreparationStep { Do = "origin" }]
                : Array.Empty<PreparationStep>();
        var steps = drawing
            .Preparation.Steps.Concat(near)
            .Concat(
                wish.Layers.Select(l => new PreparationStep
                {
                    Do = "rename layer",
                    From = l.From,
                    To = l.To,
                })
            );
        var result = DrawingConverter.Convert(
            drawing.Bytes,
            form,
            cancel: cancel,
            preparation: drawing.Preparation with
            {
                Steps = [.. steps],
            },
            place: Place(order, drawing),
            references: wish.Binds ? drawing.References : null
        );
        string name = names.Next(NamesOf(drawing), form.Dwg ? ".dwg" : ".dxf");
        using (var stream = target.Create(name))
            stream.Write(result.Bytes);
        return (
            FileOf(name, target, result.Rows.Sum(r => r.Found)),
            new DrawingBalance(
                drawing.Label,
                name,
                result.Rows,
                result.Steps,
                result.Ledger,
                result.Checks,
                [
                    .. result
                        .Findings.Where(f => f.Code.StartsWith("CAD-XREF", StringComparison.Ordinal))
                        .Select(f => f.Message),
                    .. result.Differences,
                ],
                result.Unaccounted,
                result.Balanced
            )
        );
    }

    private static NameValues NamesOf(HandoverDrawing drawing) =>
        new(drawing.Party, drawing.Label, drawing.Storey)
        {
            Revision = drawing.Revision > 0 ? FormattableString.Invariant($"r{drawing.Revision}") : "",
        };

    // As received: the bytes that are read again must be the bytes that came.
    private static (HandoverFile, DrawingBalance) Original(HandoverDrawing drawing, string name, IFileSet target)
    {
        using (var stream = target.Create(name))
            stream.Write(drawing.Bytes);
        bool same = target.Read(name).Span.SequenceEqual(drawing.Bytes);
        return (
            FileOf(name, target, 0),
            new DrawingBalance(
                drawing.Label,
                name,
                [],
                [],
                [],
                [new ReconciliationCheck("bytes of the original", same ? 1 : 0, same ? 0 : 1, 0)],
                [],
                same ? 0 : 1,
                same
            )
        );
    }

    private static HandoverFile FileOf(string name, IFileSet target, int entities)
    {
        var bytes = target.Read(name);
        return new HandoverFile(
            name,
            bytes.Length,
            Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(bytes.Span)),
            entities
        );
    }

    private static OutgoingPlace? Place(HandoverOrder order, HandoverDrawing drawing)
    {
        if (order.Frame.Kind == FrameKind.Source && order.Unit is null)
            return null;
        var lies = drawing.Frame!.Value;
        // A sheet of paper has no upright: a section is written flat, in its own frame.
        if (drawing.SettingOut?.Upright == true)
            return OutgoingPlace.Of(Own(lies), order.Unit);
        var frame = order.Frame.Kind switch
        {
            FrameKind.Source => Own(lies),
            FrameKind.Job => lies,
            FrameKind.Party => order.Frame.Receiver!.Value.Inverse().Compose(lies),
            FrameKind.Map => order.Frame.Map!.Frame.Compose(lies),
            FrameKind.Given => FrameRewrite.Move(order.Frame.Shift, order.Frame.Degrees).Compose(Own(lies)),
            _ => Own(lies),
        };
        return OutgoingPlace.Of(frame, order.Unit);
    }

    // The drawing's own frame in metres: as large as it is, where it is, unturned.
    private static Frame Own(Frame lies)
    {
        double s = lies.X.Length;
        return new Frame(Vec3.Zero, Vec3.AxisX * s, Vec3.AxisY * s, Vec3.AxisZ * s);
    }
}
