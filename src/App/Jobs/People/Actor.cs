namespace SteadyLintel.Jobs;

/// <summary>Who does something, and from where.</summary>
/// <param name="User">The person; empty for the program itself.</param>
/// <param name="Address">The network address; empty when there is none.</param>
public sealed record Actor(Guid User, string Address)
{
    /// <summary>The program itself: the demo, work in the background.</summary>
    public static readonly Actor Program = new(Guid.Empty, "");
}
