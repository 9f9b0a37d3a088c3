using System.Text;
using System.Xml;
using System.Xml.Linq;

namespace SteadyLintel.Topics;

/// <summary>Reads and writes the XML of topic files: no document types, no addresses, limits on depth and size.</summary>
internal static class SafeXml
{
    /// <summary>The deepest that elements are allowed inside each other.</summary>
    public const int MaxDepth = 64;

    /// <summary>Reads a file.</summary>
    /// <exception cref="XmlException">It is no XML, has a document type, or is too deep; the sentence has line and column.</exception>
    public static XElement Read(byte[] bytes)
    {
        // The tree is built and copied by recursion: depth is looked at before.
        using (var reader = Reader(bytes))
            while (reader.Read())
                if (reader.Depth > MaxDepth)
                    throw new XmlException($"More than {MaxDepth} elements are inside each other.");
        using var again = Reader(bytes);
        return XDocument.Load(again, LoadOptions.PreserveWhitespace).Root!;
    }

    /// <summary>Reads one element that was kept as a text.</summary>
    public static XElement Element(string xml) => XElement.Parse(xml, LoadOptions.PreserveWhitespace);

    /// <summary>Writes a file: UTF-8 with its declaration.</summary>
    public static byte[] Write(XElement root)
    {
        using var stream = new MemoryStream();
        using (
            var writer = XmlWriter.Create(
                stream,
                new XmlWriterSettings
                {
                    Encoding = new UTF8Encoding(false),
                    // White space would be added to elements that are carried as they came.
                    Indent = false,
                    // A line break within a text is written so that it comes back as it was.
                    NewLineHandling = NewLineHandling.Entitize,
                }
            )
        )
            new XDocument(root).WriteTo(writer);
        return stream.ToArray();
    }

    private static XmlReader Reader(byte[] bytes) =>
        XmlReader.Create(
            new MemoryStream(bytes),
            new XmlReaderSettings
            {
                DtdProcessing = DtdProcessing.Prohibit,
                XmlResolver = null,
                IgnoreComments = true,
                IgnoreProcessingInstructions = true,
                CloseInput = true,
            }
        );
}
