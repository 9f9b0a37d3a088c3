namespace SteadyLintel.Web.Api;

/// <summary>How programs sign in (BCF API, 3.1 Authentication; from memory).</summary>
public sealed record BcfAuth(bool HttpBasicSupported, IReadOnlyList<string> SupportedOauth2Flows)
{
    /// <summary>As this server has it: personal access tokens as bearer tokens, and no OAuth.</summary>
    public static readonly BcfAuth Ours = new(false, []);
}
