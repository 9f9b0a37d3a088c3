using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>What an order says of drawings, in a form that can be carried out.</summary>
/// <param name="AsReceived">Whether originals go, byte for byte.</param>
/// <param name="Dwg">Whether DWG is written; null for the kind that came.</param>
/// <param name="Version">The version that is written; null for the kind's usual one.</param>
/// <param name="Layers">The names of layers that change.</param>
public sealed record DrawingOrder(bool AsReceived, bool? Dwg, CadVersion? Version, IReadOnlyList<OrderName> Layers)
{
    /// <summary>Whether references become part of the drawing.</summary>
    public bool Binds { get; init; } = true;

    /// <summary>The form a drawing is written in.</summary>
    /// <param name="came">The form it came in.</param>
    public CadForm FormOf(CadForm came)
    {
        bool dwg = Dwg ?? came.Dwg;
        return new CadForm(dwg, Version ?? (dwg ? CadVersion.AC1024 : CadVersion.AC1027));
    }

    /// <summary>Reads what a document says.</summary>
    /// <exception cref="OrderException">A word is not known, or does not go with another.</exception>
    internal static DrawingOrder Read(OrderDrawings drawings)
    {
        OrderOptions.Drawings.Check(drawings.As);
        OrderOptions.DrawingFile.Check(drawings.File);
        OrderOptions.References.Check(drawings.References);
        bool received = drawings.As == "received";
        if (received && (drawings.File ?? drawings.Version ?? drawings.Layers.FirstOrDefault()?.From) is not null)
            throw new OrderException("Drawings as received go as they are; file, version and layers go with prepared.");
        if (
            drawings.Layers.FirstOrDefault(l => string.IsNullOrWhiteSpace(l.From) || string.IsNullOrWhiteSpace(l.To))
            is not null
        )
            throw new OrderException("A layer of drawings needs from and to.");
        if (
            drawings
                .Layers.CountBy(l => l.From, StringComparer.OrdinalIgnoreCase)
                .FirstOrDefault(l => l.Value > 1)
                .Key is
            { } twice
        )
            throw new OrderException($"The layer '{twice}' of drawings gets two names; say one.");
        var wish = new DrawingOrder(
            received,
            drawings.File is null ? null : drawings.File == "dwg",
            null,
            drawings.Layers
        )
        {
            Binds = drawings.References == "bind",
        };
        if (drawings.Version is null)
            return wish;
        if (drawings.File is null)
            throw new OrderException("version of drawings needs file: dwg or dxf.");
        var form = wish.FormOf(CadForm.Default);
        return Enum.TryParse(drawings.Version, out CadVersion version) && form.Versions.Contains(version)
            ? wish with
            {
                Version = version,
            }
            : throw new OrderException(
                $"version of drawings takes {string.Join(", ", form.Versions)} for {drawings.File}, not '{drawings.Version}'."
            );
    }
}
