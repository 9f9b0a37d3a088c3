namespace SteadyLintel.Cad;

/// <summary>
/// The variables of dimensioning in DWG of release 13 and 14: an order of their own, bytes where later there are numbers of 16 bits, heads
/// of arrows by the names of
/// their blocks, and two numbers that were exploded in 2000. Order after the Open Design specification (DIMSTYLE), from memory; codes
/// after the DXF reference.
/// </summary>
internal static class OldDimensionVariables
{
    /// <summary>All, in the order of DWG.</summary>
    public static readonly DimensionVariable[] All =
    [
        .. Each(
            VariableKind.Bit,
            "DIMTOL",
            "DIMLIM",
            "DIMTIH",
            "DIMTOH",
            "DIMSE1",
            "DIMSE2",
            "DIMALT",
            "DIMTOFL",
            "DIMSAH",
            "DIMTIX",
            "DIMSOXD"
        ),
        .. Each(VariableKind.Byte, "DIMALTD", "DIMZIN"),
        .. Each(VariableKind.Bit, "DIMSD1", "DIMSD2"),
        .. Each(VariableKind.Byte, "DIMTOLJ", "DIMJUST"),
        new("DIMFIT", VariableKind.Byte, 287, CadVersion.AC1012, 3L),
        .. Each(VariableKind.Bit, "DIMUPT"),
        .. Each(VariableKind.Byte, "DIMTZIN", "DIMALTZ", "DIMALTTZ", "DIMTAD"),
        new("DIMUNIT", VariableKind.Short, 270, CadVersion.AC1012, 2L),
        .. Each(VariableKind.Short, "DIMAUNIT", "DIMDEC", "DIMTDEC", "DIMALTU", "DIMALTTD"),
        .. Each(VariableKind.Style, "DIMTXSTY"),
        .. Each(
            VariableKind.Double,
            "DIMSCALE",
            "DIMASZ",
            "DIMEXO",
            "DIMDLI",
            "DIMEXE",
            "DIMRND",
            "DIMDLE",
            "DIMTP",
            "DIMTM",
            "DIMTXT",
            "DIMCEN",
            "DIMTSZ",
            "DIMALTF",
            "DIMLFAC",
            "DIMTVP",
            "DIMTFAC",
            "DIMGAP"
        ),
        .. Each(VariableKind.Text, "DIMPOST", "DIMAPOST"),
        new("DIMBLK", VariableKind.Text, 5, CadVersion.AC1012, ""),
        new("DIMBLK1", VariableKind.Text, 6, CadVersion.AC1012, ""),
        new("DIMBLK2", VariableKind.Text, 7, CadVersion.AC1012, ""),
        .. Each(VariableKind.Colour, "DIMCLRD", "DIMCLRE", "DIMCLRT"),
    ];

    /// <summary>DIMATFIT and DIMTMOVE from DIMFIT: 0 to 3 what moves out first, 4 with a leader, 5 without one (DXF reference).</summary>
    public static (long Fit, long Move) OfFit(long fit) =>
        fit switch
        {
            4 => (3, 1),
            5 => (3, 2),
            _ => (fit, 0),
        };

    /// <summary>The reverse of <see cref="OfFit"/>.</summary>
    public static long Fit(long fit, long move) =>
        move switch
        {
            1 => 4,
            2 => 5,
            _ => fit,
        };

    /// <summary>DIMLUNIT and DIMFRAC from DIMUNIT: 6 and 7 are 4 and 5 with fractions in one line, 8 is what the desktop says (DXF
    /// reference).</summary>
    public static (long Unit, long Fraction) OfUnit(long unit) =>
        unit switch
        {
            6 => (4, 2),
            7 => (5, 2),
            8 => (6, 0),
            _ => (unit, 0),
        };

    /// <summary>The reverse of <see cref="OfUnit"/>.</summary>
    public static long Unit(long unit, long fraction) =>
        unit switch
        {
            4 or 5 when fraction == 2 => unit + 2,
            6 => 8,
            _ => unit,
        };

    private static IEnumerable<DimensionVariable> Each(VariableKind kind, params string[] names) =>
        names.Select(name =>
            DimensionVariable.All.First(v => v.Name == name) with
            {
                Kind = kind,
                Since = CadVersion.AC1012,
            }
        );
}
