using SteadyLintel.Cad;

namespace SteadyLintel.Exchange;

/// <summary>What a form of drawings has no place for, value by value, and what it says in other words.</summary>
/// <param name="from">The form it came in.</param>
/// <param name="to">The form that was written.</param>
internal sealed class DrawingLosses(CadForm from, CadForm to)
{
    // Flags of a spline that DWG keeps (DXF reference, SPLINE 70): closed, periodic, rational. That it is planar is seen by its points.
    private const long SplineFlags = 7;

    private const int Comment = 999;

    /// <summary>The rule or reason for a difference; null when there is none.</summary>
    /// <param name="item">The object as it was written.</param>
    /// <param name="code">The code of the groups that differ.</param>
    /// <param name="was">The groups of that code as they were written.</param>
    /// <param name="now">The groups of that code as they are read again.</param>
    public (string Reason, bool Lost)? Of(
        CadObject item,
        int code,
        IReadOnlyList<CadGroup> was,
        IReadOnlyList<CadGroup> now
    )
    {
        if (to.Dwg && OnlyInDxf(item, code, was, now))
            return (
                code == Comment
                    ? "comments have no place in DWG"
                    : $"{item.Type} group {code} was stored as DXF has it, and DWG has no place for it",
                true
            );
        if (
            item is Spline
            && code == 70
            && to.Dwg
            && was is [var flags]
            && now is [var kept]
            && (Whole(kept) & SplineFlags) == (Whole(flags) & SplineFlags)
        )
            return ("further flags of splines have no place in DWG", true);
        if (
            item is Layer { Colour.Rgb: { } own }
            && code == 62
            && now is [var index]
            && Math.Abs(Whole(index)) == CadColour.True(own).Index
        )
            return ("the number beside a true colour is its nearest", false);
        if (item is DimensionStyle && DimensionStyle.NewerVariable(code, to.Version) is { } variable)
            return ($"{variable} of dimension styles has no place in {to.Version}", true);
        if (item is Viewport && code == 68)
            return ("viewport renumbered", false);
        if (
            item is Viewport
            && code == 71
            && to.Dwg
            && was is [var shared]
            && Whole(shared) == 0
            && now is [var always]
            && Whole(always) == 1
        )
            return ("DWG keeps a coordinate system for each viewport", false);
        if (item is Layer && code == 347 && to.Version < CadVersion.AC1021 && now.Count == 0)
            return ($"materials of layers have no place in {to.Version}", true);
        if (
            item is ModelerEntity
            && code is 1 or 310
            && from.Version <= ModelerEntity.LastText != to.Version <= ModelerEntity.LastText
        )
            return ("body in another form", false);
        bool old = to.Version < CadVersion.AC1018;
        if (old && code == CadFacts.TrueColour && now.Count == 0)
            return ("true colour as its nearest number", false);
        if (old && code == CadFacts.ColourName && now.Count == 0)
            return ($"names of colours have no place in {to.Version}", true);
        if (old && code == CadFacts.Transparency && now.Count == 0)
            return ($"transparency has no place in {to.Version}", true);
        if (old && item is Hatch && code is (>= 450 and <= 470) or 63 or 421 or 431 && now.Count == 0)
            return ($"gradients have no place in {to.Version}", true);
        if (old && item is MText && code is 90 or 45 or 63 or 421 or 441 && now.Count == 0)
            return ($"masks of texts have no place in {to.Version}", true);
        if (to.Version < CadVersion.AC1021 && item is BlockRecord && code is 70 or 280 or 281)
            return ($"units of blocks have no place in {to.Version}", true);
        if (to.Version < CadVersion.AC1021 && item is MText && code == 46)
            return ($"heights of columns have no place in {to.Version}", true);
        if (
            code == CadFacts.EmbeddedCode
            && (to.Dwg || to.Version < CadVersion.AC1032 || (from.Dwg && item is AttributeEntity))
            && now.Count == 0
        )
            return (
                $"{(item is MText ? "columns of texts" : "paragraphs of attributes")} have no place in {to.Version}{(to.Dwg ? " of DWG" : "")}",
                true
            );
        if (item is Viewport && code == 69)
            return ("viewport renumbered", false);
        // Such a value comes back as if it had not been said; one that is another is no loss of the form.
        return to.Dwg && now.All(g => g.Value is 0L or 0.0 or 1.0 or 1e-7 or 1e-10 or "") ? OfDwg(item, code) : null;
    }

    // Values that DXF has a group for and DWG has none.
    private (string Reason, bool Lost)? OfDwg(CadObject item, int code) =>
        item switch
        {
            Spline when code is 11 or 21 or 31 or 74 => ("fit points beside control points have no place in DWG", true),
            Spline when code is 12 or 22 or 32 or 13 or 23 or 33 or 42 or 43 or 44 => (
                "tangents and tolerances of splines have no place in DWG",
                true
            ),
            Leader when code is 213 or 223 or 233 && to.Version >= CadVersion.AC1024 => (
                $"offsets of leaders have no place in {to.Version} of DWG",
                true
            ),
            MultiLeader when code == 45 && to.Version >= CadVersion.AC1024 => (
                $"some scales of multi-leaders have no place in {to.Version} of DWG",
                true
            ),
            Dimension { Kind: not (DimensionKind.Linear or DimensionKind.Ordinate) }
                when code is 50 or 51 or 52 or 53 => (
                "angles of dimensions that are not rotated have no place in DWG",
                true
            ),
            Hatch when code == 47 => ("pixel sizes of hatches have no place in DWG", true),
            Insert when code is 44 or 45 => ("spacings of inserts without rows have no place in DWG", true),
            Polyline { Kind: not PolylineKind.Flat } when code is 10 or 20 or 30 or 39 or 40 or 41 => (
                "heights of polylines of other kinds have no place in DWG",
                true
            ),
            Vertex { IsFace: true } when code is 10 or 20 or 30 => (
                "values of vertices of other kinds have no place in DWG",
                true
            ),
            Vertex { Kind: not PolylineKind.Flat } when code is 40 or 41 or 42 or 50 => (
                "values of vertices of other kinds have no place in DWG",
                true
            ),
            _ => null,
        };

    private static long Whole(CadGroup group) => group.Value is long number ? number : (long)group.Number;

    // Groups that no field of the kind read: they are written to DXF again as they came. What the fields read has to be there still.
    private static bool OnlyInDxf(CadObject item, int code, IReadOnlyList<CadGroup> was, IReadOnlyList<CadGroup> now)
    {
        if (!item.HasExtras)
            return false;
        var unread = item.Extras.Unread.Where(g => g.Code == code).ToList();
        if (unread.Count == 0)
            return false;
        var read = was.ToList();
        foreach (var group in unread)
            if (
                read.FindLastIndex(g => ReferenceEquals(g.Value, group.Value) || Equals(g.Value, group.Value))
                is >= 0
                    and var at
            )
                read.RemoveAt(at);
        return read.Count == now.Count && read.Zip(now).All(p => Equals(p.First.Value, p.Second.Value));
    }

    // Variables of the header that name an entry of a table, which DWG holds as that entry's handle.
    private static readonly Dictionary<string, SymbolKind> Named = new(StringComparer.OrdinalIgnoreCase)
    {
        ["$CLAYER"] = SymbolKind.Layer,
        ["$CELTYPE"] = SymbolKind.LineType,
        ["$TEXTSTYLE"] = SymbolKind.Style,
        ["$DIMSTYLE"] = SymbolKind.DimensionStyle,
        ["$DIMTXSTY"] = SymbolKind.Style,
    };

    /// <summary>The rule or reason for a header variable that differs; null when there is none.</summary>
    public (string Reason, bool Lost)? OfHeader(
        Drawing drawing,
        string name,
        IReadOnlyList<CadGroup> was,
        IReadOnlyList<CadGroup> now
    )
    {
        if (
            to.Dwg
            && now is [{ Value: "" }]
            && was is [{ Value: string entry }]
            && Named.TryGetValue(name, out var kind)
            && !drawing.Table(kind).All.Any(r => r.Name.Equals(entry, StringComparison.OrdinalIgnoreCase))
        )
            return ($"{name} names {entry}, which the drawing does not have, and DWG has no place for that", true);
        switch (name.ToUpperInvariant())
        {
            case "$ACADVER" when from.Version != to.Version:
                return ($"version {from.Version} → {to.Version}", false);
            case "$HANDSEED":
                return ("counted again", false);
            case "$DWGCODEPAGE":
                return ("the code page of the version", false);
        }

        return now.Count == 0 && from != to
            ? ($"some header variables have no place in {to.Version}{(to.Dwg ? " of DWG" : "")}", true)
            : null;
    }

    /// <summary>Why a section of DXF has no place; null when it has.</summary>
    public string? OfSection(string name) =>
        to.Dwg || to.Version != from.Version
            ? $"the section {name} has no place in {to.Version}{(to.Dwg ? " of DWG" : "")}"
            : null;
}
