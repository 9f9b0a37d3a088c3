namespace SteadyLintel.Cad;

/// <summary>A symbol table; names are compared without regard to case.</summary>
public abstract class SymbolTable
{
    /// <summary>The table's own handle.</summary>
    public Handle Handle { get; set; }

    /// <summary>The records in order.</summary>
    public abstract IEnumerable<SymbolRecord> All { get; }

    /// <summary>How many records there are.</summary>
    public abstract int Count { get; }

    /// <summary>The record of a name, or null.</summary>
    internal abstract SymbolRecord? Named(ReadOnlySpan<char> name);

    /// <summary>The record of a handle, or null.</summary>
    internal abstract SymbolRecord? Of(Handle handle);

    /// <summary>A new record of the table's kind, not yet in it.</summary>
    internal abstract SymbolRecord Make();

    /// <summary>Puts a record in; one whose name is there already comes after it.</summary>
    internal abstract void Put(SymbolRecord record);

    /// <summary>Lets a record be found under another handle too.</summary>
    internal abstract void Alias(Handle handle, SymbolRecord record);
}
