namespace SteadyLintel.Cad;

/// <summary>Data of an object that a file keeps apart from it: bodies in their binary form, small pictures.</summary>
/// <param name="Owner">The object.</param>
/// <param name="Schema">What kind of data: <see cref="Bodies"/> or another word of the file.</param>
/// <param name="Data">The data.</param>
public sealed record StoredData(Handle Owner, string Schema, byte[] Data)
{
    /// <summary>The schema of bodies.</summary>
    public const string Bodies = "AcDb3DSolid_ASM_Data";

    /// <summary>The schema of small pictures.</summary>
    public const string Pictures = "AcDb_Thumbnail_Schema";
}
