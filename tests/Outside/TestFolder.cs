namespace SteadyLintel.Tests;

/// <summary>A folder that goes when the test does.</summary>
internal sealed class TestFolder : IDisposable
{
    public string Path { get; } = Directory.CreateTempSubdirectory("lintel-outside-").FullName;

    public string File(string name) => System.IO.Path.Combine(Path, name);

    public void Dispose() => Directory.Delete(Path, true);
}
