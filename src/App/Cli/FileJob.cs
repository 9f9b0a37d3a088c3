using System.Security.Cryptography;
using System.Text;
using SteadyLintel.Exchange;

namespace SteadyLintel.Cli;

/// <summary>A file of a job at the terminal.</summary>
/// <param name="Path">The file; its name without the extension is the source's name.</param>
/// <param name="Place">Where it is placed; null where nobody says.</param>
internal sealed record JobFile(string Path, SettingOutDocument? Place)
{
    /// <summary>What the source is called.</summary>
    public string Name => System.IO.Path.GetFileNameWithoutExtension(Path);

    /// <summary>How a drawing is prepared.</summary>
    public PreparationDocument Preparation { get; init; } = PreparationDocument.Empty;

    /// <summary>The storeys of a model as they came, of source 0.</summary>
    public IReadOnlyList<SourceStorey> Storeys { get; init; } = [];
}

/// <summary>Makes what is known of a job (<see cref="JobModel"/>) of files, settings-out and a level schedule, as the server makes it of
/// its database: a frame and a level mean the same in both.</summary>
internal static class FileJob
{
    /// <summary>The job of some files.</summary>
    /// <param name="models">Models.</param>
    /// <param name="drawings">Drawings.</param>
    /// <param name="levels">The level schedule; its sources are called by the names of their files.</param>
    public static JobModel Of(IReadOnlyList<JobFile> models, IReadOnlyList<JobFile> drawings, LevelDocument levels) =>
        new(
            Guid.Empty,
            [.. models.Select(m => Source(m, isDrawing: false))],
            [.. drawings.Select(d => Source(d, isDrawing: true))],
            [.. models.SelectMany((m, n) => m.Storeys.Select(s => s with { Source = n }))],
            levels with
            {
                Matches = [.. levels.Matches.Select(m => m with { Source = Id(m.Source).ToString() })],
                Offsets = [.. levels.Offsets.Select(o => o with { Source = Id(o.Source).ToString() })],
            },
            []
        );

    private static JobSource Source(JobFile file, bool isDrawing)
    {
        var id = Id(file.Name);
        return new JobSource(id, file.Name, file.Name, isDrawing)
        {
            Newest = new JobRevision(id, 0, System.IO.Path.GetFileName(file.Path), default),
            Place = file.Place is null
                ? null
                : new AcceptedPlace(id, id, 0, default, file.Place) { Preparation = file.Preparation },
        };
    }

    // A source is known by its name, in letters of either case.
    private static Guid Id(string name) =>
        new(SHA256.HashData(Encoding.UTF8.GetBytes(name.ToUpperInvariant())).AsSpan(0, 16));
}
