namespace SteadyLintel.Web.Api;

/// <summary>How programs sign in (BCF API, 3.1 Authentication; from memory).</summary>
public sealed record BcfAuth(
    string? Oauth2AuthUrl,
    string? Oauth2TokenUrl,
    bool HttpBasicSupported,
    IReadOnlyList<string> SupportedOauth2Flows
)
{
    /// <summary>As this server has it: personal access tokens as bearer tokens.</summary>
    public static BcfAuth Of(string root) =>
        string.IsNullOrEmpty(root) ? new BcfAuth(null, null, false, []) : new BcfAuth(null, null, false, []);
}
