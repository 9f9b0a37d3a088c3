namespace SteadyLintel.Web;

/// <summary>A program that somebody registered.</summary>
/// <param name="ClientId">The name it signs in with.</param>
/// <param name="Name">What people call it.</param>
/// <param name="Redirect">Where people come back to after their consent; null where it acts for its owner alone.</param>
/// <param name="HasSecret">Whether it has a secret, so that it can sign in as itself.</param>
public sealed record RegisteredProgram(string ClientId, string Name, string? Redirect, bool HasSecret);
