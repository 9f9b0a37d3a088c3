namespace SteadyLintel.Jobs;

/// <summary>Another server as somebody adds it.</summary>
/// <param name="Name">What people call it; its host where empty.</param>
/// <param name="Address">Its address.</param>
/// <param name="SignIn">A way of <see cref="TopicServerSignIn.Ways"/>.</param>
/// <param name="ClientId">The name it knows this program by; empty for a token.</param>
/// <param name="Secret">The client secret, or the token; empty for none.</param>
public sealed record ServerWish(string? Name, string? Address, string? SignIn, string? ClientId, string? Secret);
