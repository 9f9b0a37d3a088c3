namespace SteadyLintel.Step;

/// <summary>The header section, ISO 10303-21 clause 8.</summary>
public sealed record StepHeader
{
    /// <summary>FILE_SCHEMA's first schema name, as written; empty when missing.</summary>
    public string Schema { get; init; } = "";

    /// <summary>FILE_DESCRIPTION's texts.</summary>
    public IReadOnlyList<string> Description { get; init; } = [];

    /// <summary>FILE_DESCRIPTION's implementation level, usually <c>2;1</c>.</summary>
    public string ImplementationLevel { get; init; } = "2;1";

    /// <summary>FILE_NAME's name.</summary>
    public string Name { get; init; } = "";

    /// <summary>FILE_NAME's time stamp, as written.</summary>
    public string TimeStamp { get; init; } = "";

    /// <summary>FILE_NAME's authors.</summary>
    public IReadOnlyList<string> Author { get; init; } = [];

    /// <summary>FILE_NAME's organisations.</summary>
    public IReadOnlyList<string> Organization { get; init; } = [];

    /// <summary>FILE_NAME's preprocessor version.</summary>
    public string PreprocessorVersion { get; init; } = "";

    /// <summary>FILE_NAME's originating system.</summary>
    public string OriginatingSystem { get; init; } = "";

    /// <summary>FILE_NAME's authorisation.</summary>
    public string Authorization { get; init; } = "";

    internal StepHeader With(string keyword, StepRecord record) =>
        keyword switch
        {
            "FILE_SCHEMA" => this with { Schema = First(record[0]) },
            "FILE_DESCRIPTION" => this with
            {
                Description = Texts(record[0]),
                ImplementationLevel = record[1].Text ?? "2;1",
            },
            "FILE_NAME" => this with
            {
                Name = record[0].Text ?? "",
                TimeStamp = record[1].Text ?? "",
                Author = Texts(record[2]),
                Organization = Texts(record[3]),
                PreprocessorVersion = record[4].Text ?? "",
                OriginatingSystem = record[5].Text ?? "",
                Authorization = record[6].Text ?? "",
            },
            _ => this,
        };

    private static string First(StepValue list)
    {
        foreach (var item in list.Items)
            return item.Text ?? "";
        return "";
    }

    private static List<string> Texts(StepValue list)
    {
        var texts = new List<string>();
        foreach (var item in list.Items)
            texts.Add(item.Text ?? "");
        return texts;
    }
}
