using SteadyLintel.Demo;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>The demo's models, opened once.</summary>
public sealed class DemoModels
{
    public IReadOnlyDictionary<string, byte[]> Bytes { get; } =
        HeronWharf.Models.ToDictionary(
            d => d.Party,
            d =>
            {
                using var stream = new MemoryStream();
                d.Write(stream);
                return stream.ToArray();
            }
        );

    public IReadOnlyDictionary<string, ModelSnapshot> Snapshots =>
        field ??= Bytes.ToDictionary(b => b.Key, b => ModelSnapshot.Open(b.Value));

    public IReadOnlyList<HandoverSource> Sources =>
        [.. Snapshots.Select(s => new HandoverSource(s.Key, s.Key, s.Value))];
}

/// <summary>Files in memory.</summary>
internal sealed class MemoryFiles : IFileSet
{
    public Dictionary<string, MemoryStream> Files { get; } = [];

    public Stream Create(string name) => Files[name] = new MemoryStream();

    public ReadOnlyMemory<byte> Read(string name) => Files[name].ToArray();
}
