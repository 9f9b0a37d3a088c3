namespace SteadyLintel.Cad;

/// <summary>Something odd met while reading or writing a drawing.</summary>
/// <param name="Code">A stable code: <c>CAD-…</c>.</param>
/// <param name="Place">Line, handle or section.</param>
/// <param name="Message">What is wrong, in a sentence.</param>
public sealed record CadFinding(string Code, string Place, string Message);
