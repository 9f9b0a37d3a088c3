using System.Globalization;

namespace SteadyLintel.Exchange;

/// <summary>Gives each file of a hand-over its name, never the same twice.</summary>
/// <param name="template">The name template.</param>
/// <param name="job">The job's code.</param>
/// <param name="unit">The code of the unit.</param>
/// <param name="to">Who gets it.</param>
/// <param name="date">The day of the hand-over, ISO 8601; empty for none.</param>
internal sealed class FileNames(string template, string job, string unit, string to = "", string date = "")
{
    private readonly HashSet<string> _used = new(StringComparer.OrdinalIgnoreCase);
    private int _number;

    /// <summary>The name of the next file.</summary>
    /// <param name="file">What the words mean.</param>
    /// <param name="extension">Its extension, with the dot.</param>
    /// <exception cref="OrderException">Another file has this name, or no system of a receiver can be relied on to hold it.</exception>
    public string Next(NameValues file, string extension)
    {
        _number++;
        var values = new Dictionary<string, string>
        {
            ["job"] = job,
            ["unit"] = unit,
            ["to"] = to,
            ["date"] = date,
            ["n"] = _number.ToString("000", CultureInfo.InvariantCulture),
            ["party"] = file.Party,
            ["source"] = file.Source,
            ["storey"] = file.Storey,
            ["class"] = file.Class.StartsWith("Ifc", StringComparison.Ordinal) ? file.Class[3..] : file.Class,
            ["type"] = file.Type,
            ["mark"] = file.Mark,
            ["group"] = file.Group,
            ["value"] = file.Value,
            ["section"] = file.Section,
            ["revision"] = file.Revision,
        };
        string name = NameTemplate.Fill(template, values);
        if (NameTemplate.NameProblem(name) is { } problem)
            throw new OrderException(problem);
        if (!_used.Add(name + extension))
        {
            var more = NameTemplate
                .Words.Where(w =>
                    w is not ("job" or "unit" or "date" or "to")
                    && !template.Contains($"{{{w}}}", StringComparison.Ordinal)
                    && values[w].Length > 0
                )
                .Select(w => $"{{{w}}}");
            throw new OrderException(
                $"The name template gives two files the name '{name}{extension}'; add a word that distinguishes them: {string.Join(", ", more)}."
            );
        }

        return name + extension;
    }
}
