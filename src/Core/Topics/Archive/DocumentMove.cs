using System.Security.Cryptography;
using System.Text;
using SteadyLintel.Exchange;

namespace SteadyLintel.Topics;

/// <summary>Documents: 3.0 has a list of them for the archive and files named by GUID; 2.1 has paths from the topic's folder
/// on.</summary>
internal sealed class DocumentMove
{
    private readonly Dictionary<string, TopicDocument> _documents;
    private readonly Dictionary<string, TopicPart> _parts;
    private readonly HashSet<string> _used = new(StringComparer.OrdinalIgnoreCase);
    private readonly FindingList _findings;

    public DocumentMove(TopicArchive archive, FindingList findings)
    {
        _findings = findings;
        _documents = archive
            .Documents.DistinctBy(d => d.Guid, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(d => d.Guid, StringComparer.OrdinalIgnoreCase);
        _parts = archive
            .Parts.DistinctBy(p => p.Name, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(p => p.Name, StringComparer.OrdinalIgnoreCase);
    }

    /// <summary>The documents of the archive now.</summary>
    public IReadOnlyList<TopicDocument> Documents => [.. _documents.Values];

    /// <summary>The files of the archive now.</summary>
    public IReadOnlyList<TopicPart> Parts => [.. _parts.Values];

    /// <summary>A topic of 2.1 as 3.0 has it.</summary>
    public Topic Up(Topic topic)
    {
        var parts = topic.Parts.ToList();
        var references = topic.Documents.Select(d => Up(d, topic, parts)).ToList();
        return topic with { Documents = references, Parts = parts };
    }

    private DocumentReference Up(DocumentReference d, Topic topic, List<TopicPart> parts)
    {
        if (d.Path is not { } path)
            return d with { Guid = d.Guid ?? Id(topic.Guid + d.Url) };
        string name = path.Replace('\\', '/');
        string root = name.StartsWith("../", StringComparison.Ordinal) ? name[3..] : name;
        string key = Own(root) ?? Id(name == root ? topic.Guid + "/" + name : root);
        var own = parts.FirstOrDefault(p => p.Name.Equals(name, StringComparison.OrdinalIgnoreCase));
        var found = own ?? _parts.GetValueOrDefault(root);
        if (found is null && !_documents.ContainsKey(key))
        {
            Missing(topic, path);
            return d with { Guid = d.Guid ?? key, Path = null, Url = path };
        }

        if (found is not null && own is not null)
            parts.Remove(own);
        else if (found is not null)
            _parts.Remove(root);
        if (found is not null)
        {
            _parts[$"documents/{key}"] = found with { Name = $"documents/{key}" };
            _documents[key] = new TopicDocument(key, root.Split('/')[^1], d.Description);
        }

        return d with
        {
            Guid = d.Guid ?? Id(topic.Guid + key),
            Path = null,
            Document = key,
        };
    }

    // documents/GUID/name is how documents of 3.0 are written here: there and back, a document is the same.
    private static string? Own(string path) => path.Split('/') is ["documents", { Length: > 0 } guid, _] ? guid : null;

    /// <summary>A topic of 3.0 as 2.1 has it.</summary>
    public Topic Down(Topic topic) => topic with { Documents = [.. topic.Documents.Select(d => Down(d, topic))] };

    private DocumentReference Down(DocumentReference d, Topic topic)
    {
        if (d.Document is not { } guid)
            return d;
        if (!_documents.TryGetValue(guid, out var document))
        {
            Missing(topic, guid);
            return d with { Document = null, Path = $"../documents/{guid}" };
        }

        string name = $"documents/{guid}/{Plain(document.Filename) ?? guid}";
        if (_used.Add(guid) && _parts.Remove($"documents/{guid}", out var part))
            _parts[name] = part with { Name = name };
        return d with { Document = null, Path = "../" + name, Description = d.Description ?? document.Description };
    }

    /// <summary>Says which documents of the list no topic refers to: 2.1 has no list to keep their names.</summary>
    public void Unused()
    {
        foreach (var d in _documents.Values.Where(d => !_used.Contains(d.Guid)))
            _findings.Add(
                "BCF-TO-LEFT-OUT",
                Severity.Warning,
                n => $"{n} values have no place in that version and are left out.",
                new FindingElement(
                    "",
                    0,
                    "",
                    d.Filename ?? "",
                    $"name of the document {d.Guid}, which no topic refers to"
                )
            );
    }

    private void Missing(Topic topic, string detail) =>
        _findings.Add(
            "BCF-DOCUMENT-MISSING",
            Severity.Warning,
            n => $"{n} references name documents that are not in the archive.",
            new FindingElement("", 0, "", topic.Title ?? "", detail)
        );

    // The name is a stranger's: it must not lead anywhere.
    private static string? Plain(string? name)
    {
        string plain = (name ?? "").Replace('\\', '/').Split('/')[^1];
        return plain is "" or "." or ".." || plain.Any(c => c < ' ' || c == ':') ? null : plain;
    }

    // The same path is the same document, whenever it is converted.
    private static string Id(string text) =>
        new Guid(SHA256.HashData(Encoding.UTF8.GetBytes(text)).AsSpan(0, 16)).ToString();
}
