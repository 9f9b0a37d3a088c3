namespace SteadyLintel.Cad;

/// <summary>The value of a cell in DWG from 2007 on (Open Design specification, 20.4.99, from memory): its kind, itself, and how it is
/// shown.</summary>
internal static class TableValue
{
    private const int OfNothing = 0,
        OfWhole = 1,
        OfReal = 2,
        OfText = 4,
        OfTime = 8,
        OfPoint = 16,
        OfPlace = 32,
        OfObject = 64,
        OfBytes = 128,
        OfList = 256,
        OfOther = 512;
    private const int IsEmpty = 1;

    /// <summary>Reads or writes a value; what is shown of it becomes the text of the cell.</summary>
    public static void Exchange(DwgFields d, TableCell cell)
    {
        int flags = d.Long(cell.Text.Length > 0 ? 0 : IsEmpty),
            kind = d.Long(cell.Text.Length > 0 ? OfText : OfNothing);
        string text = cell.Text;
        if ((flags & IsEmpty) == 0)
            text = Data(d, kind, cell.Text);
        d.Long(0);
        d.Text(300, "");
        string shown = d.Text(302, cell.Text);
        if (d.Reading)
            cell.Text =
                cell.Text.Length > 0 ? cell.Text
                : shown.Length > 0 ? shown
                : text;
    }

    private static string Data(DwgFields d, int kind, string text)
    {
        switch (kind)
        {
            case OfNothing or OfWhole:
                return d.Long(0).ToString(System.Globalization.CultureInfo.InvariantCulture);
            case OfReal:
                return d.Double(0).ToString(System.Globalization.CultureInfo.InvariantCulture);
            case OfText:
                return d.Text(1, text);
            case OfTime or OfPoint or OfPlace or OfBytes or OfList:
                d.Bytes([], d.Count(0));
                return "";
            case OfObject:
                d.Handle(default, HandleKind.SoftPointer);
                return "";
            case OfOther:
                return "";
            default:
                throw new CadFormatException($"a value of kind {kind}");
        }
    }
}
