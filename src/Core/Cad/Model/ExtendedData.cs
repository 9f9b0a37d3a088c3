namespace SteadyLintel.Cad;

/// <summary>Extended data of one application.</summary>
/// <param name="Application">The application's record.</param>
/// <param name="Groups">Groups 1000 to 1071; points are three doubles under 1010, 1020, 1030.</param>
public sealed record ExtendedData(Handle Application, List<CadGroup> Groups);
