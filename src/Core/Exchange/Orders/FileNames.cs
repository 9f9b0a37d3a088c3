namespace SteadyLintel.Exchange;

/// <summary>Gives each file of a hand-over its name, never the same twice.</summary>
internal sealed class FileNames(string template, string job, string unit)
{
    private readonly HashSet<string> _used = new(StringComparer.OrdinalIgnoreCase);

    public string Next(string party, string source, string storey, string extension)
    {
        var values = new Dictionary<string,
            string>
        { ["job"] = job, ["party"] = party, ["source"] = source, ["storey"] = storey, ["unit"] = unit };
        string name = NameTemplate.Fill(template, values);
        string result = name + extension;
        for (int n = 2; !_used.Add(result); n++) result = $"{name}-{n}{extension}";
        return result;
    }
}
