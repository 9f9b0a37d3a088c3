using System.Collections.Concurrent;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.WebUtilities;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Signs a job in at another server: with a token, as a program, or as a person (RFC 6749, RFC 7636).</summary>
/// <param name="connection">The way there.</param>
/// <param name="protection">Keeps secrets.</param>
public sealed class TopicServerSignIn(TopicServerConnection connection, IDataProtectionProvider protection)
{
    /// <summary>Ways to sign in, in words.</summary>
    public static readonly IReadOnlyDictionary<string, string> Ways = new Dictionary<string, string>
    {
        ["person"] = "as a person who signs in there",
        ["program"] = "as a program, with client ID and secret",
        ["token"] = "with a token that somebody made there",
    };

    private static readonly TimeSpan Early = TimeSpan.FromSeconds(60),
        StateIsGood = TimeSpan.FromMinutes(15);

    private readonly IDataProtector _secrets = protection.CreateProtector("secrets of other servers");
    private readonly ITimeLimitedDataProtector _states = protection
        .CreateProtector("sign-in at other servers")
        .ToTimeLimitedDataProtector();
    private readonly ConcurrentDictionary<Guid, (string Token, DateTime Until)> _tokens = new();

    /// <summary>Protects a secret; an empty one is none.</summary>
    public string Protect(string secret) => secret.Length == 0 ? "" : _secrets.Protect(secret);

    /// <summary>Where its API begins, and how one signs in.</summary>
    /// <param name="address">Where it is asked for its versions, or any address of its API.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="TopicServerException">It does not answer as such a server does.</exception>
    public async Task<DiscoveredServer> DiscoverAsync(string address, CancellationToken cancel)
    {
        string root = address;
        foreach (string end in (string[])["/foundation/versions", "/bcf/versions", "/bcf/3.0", "/bcf/2.1", "/bcf"])
            if (root.EndsWith(end, StringComparison.OrdinalIgnoreCase))
                root = root[..^end.Length];
        var open = new BcfClient(connection.Http, root, null);
        var versions = (
            await open.GetAsync<VersionList>("foundation/versions", cancel)
            ?? await open.GetAsync<VersionList>("bcf/versions", cancel)
        )?.Versions
            ?? throw new TopicServerException(
                TopicServerFault.Refused,
                $"{new Uri(root).Authority} does not say which versions of BCF API it has (foundation/versions)."
            );
        var api = versions
            .OfType<VersionEntry>()
            .Where(v => (v.ApiId is null or "bcf") && v.VersionId is "3.0" or "2.1")
            .MaxBy(v => v.VersionId, StringComparer.Ordinal)
            ?? throw new TopicServerException(
                TopicServerFault.Refused,
                $"{new Uri(root).Authority} speaks neither BCF API 3.0 nor 2.1."
            );
        string at = (api.ApiBaseUrl is { Length: > 0 } own ? connection.Checked(own) : $"{root}/bcf/{api.VersionId}");
        var foundation = versions.FirstOrDefault(v => v?.ApiId == "foundation");
        string fallback = foundation?.ApiBaseUrl is { Length: > 0 } f
            ? connection.Checked(f)
            : $"{root}/foundation/1.0";
        var auth = await new BcfClient(connection.Http, at, null).GetAsync<AuthInfo>("auth", cancel)
            ?? await new BcfClient(connection.Http, fallback, null).GetAsync<AuthInfo>("auth", cancel);
        return new DiscoveredServer(
            root,
            at,
            api.VersionId!,
            auth?.Oauth2AuthUrl is { Length: > 0 } a ? connection.Checked(a) : "",
            auth?.Oauth2TokenUrl is { Length: > 0 } t ? connection.Checked(t) : ""
        );
    }

    /// <summary>A client that is signed in.</summary>
    /// <param name="server">The server; a renewed secret is written into it.</param>
    /// <param name="cancel">Stops it.</param>
    /// <exception cref="TopicServerException">It does not let us in.</exception>
    internal async Task<BcfClient> ClientAsync(TopicServer server, CancellationToken cancel) =>
        new(connection.Http, server.ApiAddress, await TokenAsync(server, cancel));

    /// <summary>Forgets a token that the server no longer accepts.</summary>
    public void Forget(TopicServer server) => _tokens.TryRemove(server.Id, out _);

    /// <summary>The address where a person signs in there.</summary>
    /// <param name="server">The server.</param>
    /// <param name="user">The person here.</param>
    /// <param name="back">Where they come back to.</param>
    public string Address(TopicServer server, Guid user, string back)
    {
        string verifier = WebEncoders.Base64UrlEncode(RandomNumberGenerator.GetBytes(48));
        return QueryHelpers.AddQueryString(
            server.SignInAddress,
            new Dictionary<string, string?>
            {
                ["response_type"] = "code",
                ["client_id"] = server.ClientId,
                ["redirect_uri"] = back,
                ["state"] = _states.Protect($"{server.Id:N} {user:N} {verifier}", StateIsGood),
                ["code_challenge"] = WebEncoders.Base64UrlEncode(SHA256.HashData(Encoding.ASCII.GetBytes(verifier))),
                ["code_challenge_method"] = "S256",
                ["scope"] = "topics offline_access",
            }
        );
    }

    /// <summary>Which server somebody comes back from, and what proves it; null where the state is not one that they were given.</summary>
    public (Guid Server, string Verifier)? Read(string? state, Guid user)
    {
        try
        {
            return
                _states.Unprotect(state ?? "").Split(' ') is [var server, var who, var verifier]
                && who == user.ToString("N")
                ? (Guid.ParseExact(server, "N"), verifier)
                : null;
        }
        catch (CryptographicException)
        {
            return null;
        }
    }

    /// <summary>Exchanges the code that a person brought back.</summary>
    /// <exception cref="TopicServerException">The server does not accept it.</exception>
    public async Task TakeCodeAsync(
        TopicServer server,
        string code,
        string verifier,
        string back,
        CancellationToken cancel
    )
    {
        Forget(server);
        await AskAsync(
            server,
            new Dictionary<string, string>
            {
                ["grant_type"] = "authorization_code",
                ["code"] = code,
                ["redirect_uri"] = back,
                ["code_verifier"] = verifier,
            },
            cancel
        );
    }

    private async Task<string> TokenAsync(TopicServer server, CancellationToken cancel)
    {
        if (server.SignIn == "token")
            return Open(server.Secret);
        if (_tokens.TryGetValue(server.Id, out var known) && known.Until > DateTime.UtcNow)
            return known.Token;
        if (server.SignIn == "program")
            return await AskAsync(
                server,
                new Dictionary<string, string> { ["grant_type"] = "client_credentials", ["scope"] = "topics" },
                cancel
            );
        if (server.Renewal.Length == 0)
            throw new TopicServerException(TopicServerFault.SignIn, $"Nobody is signed in at {server.Name}.");
        return await AskAsync(
            server,
            new Dictionary<string, string>
            {
                ["grant_type"] = "refresh_token",
                ["refresh_token"] = Open(server.Renewal),
            },
            cancel
        );
    }

    private async Task<string> AskAsync(TopicServer server, Dictionary<string, string> form, CancellationToken cancel)
    {
        form["client_id"] = server.ClientId;
        if (server.Secret.Length > 0)
            form["client_secret"] = Open(server.Secret);
        string host = new Uri(server.TokenAddress).Authority;
        try
        {
            using var answer = await connection.Http.PostAsync(
                server.TokenAddress,
                new FormUrlEncodedContent(form),
                cancel
            );
            if ((int)answer.StatusCode >= 500)
                throw new TopicServerException(TopicServerFault.Away, $"{host} cannot answer now.");
            if (
                !answer.IsSuccessStatusCode
                || await answer.Content.ReadFromJsonAsync<Tokens>(BcfJson.Options, cancel)
                    is not { AccessToken: { Length: > 0 } token } tokens
            )
                throw new TopicServerException(TopicServerFault.SignIn, $"{host} does not accept the sign-in.");
            _tokens[server.Id] = (token, DateTime.UtcNow + TimeSpan.FromSeconds(tokens.ExpiresIn ?? 300) - Early);
            if (tokens.RefreshToken is { Length: > 0 } renewal)
                server.Renewal = Protect(renewal);
            return token;
        }
        catch (Exception e)
            when (e is HttpRequestException or IOException or JsonException
                || (e is OperationCanceledException && !cancel.IsCancellationRequested)
            )
        {
            throw new TopicServerException(TopicServerFault.Away, $"{host} does not answer ({e.Message}).");
        }
    }

    private string Open(string secret)
    {
        try
        {
            return secret.Length == 0 ? "" : _secrets.Unprotect(secret);
        }
        catch (CryptographicException)
        {
            // The keys of this site are others by now.
            throw new TopicServerException(TopicServerFault.SignIn, "The stored secret cannot be read any more.");
        }
    }

    private sealed record VersionList(IReadOnlyList<VersionEntry?>? Versions);

    private sealed record VersionEntry(string? ApiId, string? VersionId, string? ApiBaseUrl);

    private sealed record AuthInfo(
        [property: JsonPropertyName("oauth2_auth_url")] string? Oauth2AuthUrl,
        [property: JsonPropertyName("oauth2_token_url")] string? Oauth2TokenUrl
    );

    private sealed record Tokens(string? AccessToken, string? RefreshToken, double? ExpiresIn);
}
