using PdfSharp.Drawing;
using PdfSharp.Fonts;
using PdfSharp.Pdf;

namespace SteadyLintel.Web;

/// <summary>Prints a sheet as PDF, A4 upright.</summary>
public static class SheetPdf
{
    /// <summary>The font that ships with the application.</summary>
    internal const string Family = "Sheet";

    /// <summary>Says where the font lies that ships with the application.</summary>
    /// <param name="files">The files of the web root.</param>
    public static void UseFonts(Microsoft.Extensions.FileProviders.IFileProvider files) =>
        GlobalFontSettings.FontResolver ??= new Fonts(files);

    /// <summary>Writes a sheet.</summary>
    public static byte[] Write(TransmittalSheet sheet)
    {
        using var document = new PdfDocument();
        document.Info.Title = sheet.Title;
        document.Info.Creator = "Steady Lintel";
        var page = new PdfPrinter(document, sheet.Title);
        page.Text(sheet.Title, 15, true);
        page.Text(sheet.Verdict, 10.5, true);
        page.Gap(4);
        foreach (var (name, value) in sheet.Facts)
            page.Pair(name, value);
        foreach (var table in sheet.Tables)
            page.Table(table);
        page.End();
        using var stream = new MemoryStream();
        document.Save(stream, false);
        return stream.ToArray();
    }

    private sealed class Fonts(Microsoft.Extensions.FileProviders.IFileProvider files) : IFontResolver
    {
        public FontResolverInfo ResolveTypeface(string familyName, bool bold, bool italic) =>
            new(bold ? "DejaVuSansCondensed-Bold" : "DejaVuSansCondensed");

        public byte[] GetFont(string faceName)
        {
            using var stream = files.GetFileInfo($"lib/{faceName}.ttf").CreateReadStream();
            using var bytes = new MemoryStream();
            stream.CopyTo(bytes);
            return bytes.ToArray();
        }
    }
}
