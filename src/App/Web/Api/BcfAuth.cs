namespace SteadyLintel.Web.Api;

/// <summary>How programs sign in (BCF API, 3.1 Authentication; from memory).</summary>
public sealed record BcfAuth(
    string Oauth2AuthUrl,
    string Oauth2TokenUrl,
    bool HttpBasicSupported,
    IReadOnlyList<string> SupportedOauth2Flows
)
{
    /// <summary>As this server has it: by a person's consent, as a program of its own, and with personal access tokens.</summary>
    public static BcfAuth At(string root) =>
        new(
            root + ProgramSignIn.AuthorizePath,
            root + ProgramSignIn.TokenPath,
            false,
            ["authorization_code_grant", "client_credentials_grant"]
        );
}
