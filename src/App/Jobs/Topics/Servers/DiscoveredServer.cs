namespace SteadyLintel.Jobs;

/// <summary>What another server says of itself.</summary>
/// <param name="Address">Where it is asked for its versions.</param>
/// <param name="ApiAddress">Where its BCF API begins.</param>
/// <param name="Version">3.0 or 2.1.</param>
/// <param name="SignInAddress">Where people sign in; empty for none.</param>
/// <param name="TokenAddress">Where tokens are got; empty for none.</param>
public sealed record DiscoveredServer(
    string Address,
    string ApiAddress,
    string Version,
    string SignInAddress,
    string TokenAddress
);
