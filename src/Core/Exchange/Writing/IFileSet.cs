namespace SteadyLintel.Exchange;

/// <summary>Where the files of a hand-over go, and where they are read again.</summary>
public interface IFileSet
{
    /// <summary>Begins a file; its stream is closed before it is read.</summary>
    Stream Create(string name);

    /// <summary>The bytes of a finished file, valid as long as the set is.</summary>
    ReadOnlyMemory<byte> Read(string name);
}
