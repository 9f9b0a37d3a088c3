using OpenIddict.Abstractions;
using SteadyLintel.Jobs;
using static OpenIddict.Abstractions.OpenIddictConstants;

namespace SteadyLintel.Web;

/// <summary>Programs that sign in by OAuth: who registered them, and whom they act for.</summary>
public sealed class RegisteredPrograms(
    IOpenIddictApplicationManager applications,
    IOpenIddictAuthorizationManager consents,
    IOpenIddictTokenManager tokens
)
{
    private const int Most = 20,
        LongestName = 80,
        LongestAddress = 400;

    /// <summary>The programs that a person registered, by name.</summary>
    public async Task<IReadOnlyList<RegisteredProgram>> OfAsync(Guid owner, CancellationToken cancel)
    {
        var programs = new List<RegisteredProgram>();
        await foreach (object program in applications.ListAsync(cancellationToken: cancel))
            if (OwnerOf(await applications.GetClientIdAsync(program, cancel)) == owner)
                programs.Add(await ShownAsync(program, cancel));
        return [.. programs.OrderBy(p => p.Name, StringComparer.Ordinal)];
    }

    /// <summary>A program; null where there is none.</summary>
    public async Task<RegisteredProgram?> FindAsync(string clientId, CancellationToken cancel) =>
        await applications.FindByClientIdAsync(clientId, cancel) is { } found ? await ShownAsync(found, cancel) : null;

    /// <summary>Registers a program.</summary>
    /// <param name="owner">Whose it is; without somebody's consent it acts for this person.</param>
    /// <param name="name">What people call it.</param>
    /// <param name="redirect">Where people come back to after their consent; empty where it acts for its owner alone.</param>
    /// <param name="keepsSecret">Whether it can keep a secret: it runs on a server, not on people's machines.</param>
    /// <param name="cancel">Stops it.</param>
    /// <returns>Its client ID, and the secret that is shown once; null where it has none.</returns>
    /// <exception cref="RefusedException">A word is wrong, or there are too many.</exception>
    public async Task<(string ClientId, string? Secret)> AddAsync(
        Guid owner,
        string? name,
        string? redirect,
        bool keepsSecret,
        CancellationToken cancel
    )
    {
        string address = InputRules.Of(redirect, "The redirect address", LongestAddress, false);
        if (address.Length == 0 && !keepsSecret)
            throw new RefusedException(
                RefusalKind.Wrong,
                "A program needs a redirect address, or a secret, or both: without a redirect address nobody can consent, without a "
                    + "secret it cannot sign in as itself."
            );
        if ((await OfAsync(owner, cancel)).Count >= Most)
            throw new RefusedException(RefusalKind.Conflict, $"{Most} programs are the most; remove one first.");
        string secret = Secrets.New();
        var program = new OpenIddictApplicationDescriptor
        {
            ClientId = $"{owner:N}-{Guid.NewGuid().ToString("N")[..8]}",
            ClientSecret = keepsSecret ? secret : null,
            ClientType = keepsSecret ? ClientTypes.Confidential : ClientTypes.Public,
            ConsentType = ConsentTypes.Explicit,
            DisplayName = InputRules.Of(name, "The name", LongestName),
            Permissions = { Permissions.Endpoints.Token, Permissions.Prefixes.Scope + ProgramSignIn.Scope },
        };
        if (keepsSecret)
            program.Permissions.Add(Permissions.GrantTypes.ClientCredentials);
        if (address.Length > 0)
        {
            var uri = Redirect(address);
            // RFC 8252, 7.3: a program on somebody's machine listens at any port.
            program.ApplicationType = uri.IsLoopback ? ApplicationTypes.Native : ApplicationTypes.Web;
            program.RedirectUris.Add(uri);
            program.Permissions.UnionWith([
                Permissions.Endpoints.Authorization,
                Permissions.Endpoints.Revocation,
                Permissions.GrantTypes.AuthorizationCode,
                Permissions.GrantTypes.RefreshToken,
                Permissions.ResponseTypes.Code,
            ]);
        }

        await applications.CreateAsync(program, cancel);
        return (program.ClientId, program.ClientSecret);
    }

    /// <summary>Removes a program of a person, with every token that it has.</summary>
    public async Task RemoveAsync(Guid owner, string? clientId, CancellationToken cancel)
    {
        if (OwnerOf(clientId) == owner && await applications.FindByClientIdAsync(clientId!, cancel) is { } program)
            await applications.DeleteAsync(program, cancel);
    }

    /// <summary>The programs that a person lets act for them.</summary>
    public async Task<IReadOnlyList<(string ClientId, string Name, DateTime Since)>> AllowedAsync(
        Guid person,
        CancellationToken cancel
    )
    {
        var allowed = new Dictionary<string, (string ClientId, string Name, DateTime Since)>();
        // Each sign-in is a consent of its own: many are of few programs.
        var known = new Dictionary<string, object?>();
        await foreach (object consent in consents.FindBySubjectAsync(person.ToString(), cancel))
        {
            if (
                !await consents.HasStatusAsync(consent, Statuses.Valid, cancel)
                || await consents.GetApplicationIdAsync(consent, cancel) is not { } application
            )
                continue;
            if (!known.TryGetValue(application, out object? program))
                known[application] = program = await applications.FindByIdAsync(application, cancel);
            if (program is null)
                continue;
            string id = await applications.GetClientIdAsync(program, cancel) ?? "";
            var since = (await consents.GetCreationDateAsync(consent, cancel))?.UtcDateTime ?? DateTime.UtcNow;
            allowed[id] = (
                id,
                await applications.GetDisplayNameAsync(program, cancel) ?? "",
                Earlier(allowed.GetValueOrDefault(id).Since, since)
            );
        }

        return [.. allowed.Values.OrderBy(a => a.Name, StringComparer.Ordinal)];
    }

    /// <summary>Ends every consent that a person gave to a program: its tokens are worth nothing from now on.</summary>
    public async Task ForbidAsync(Guid person, string? clientId, CancellationToken cancel)
    {
        if (await applications.FindByClientIdAsync(clientId ?? "", cancel) is not { } program)
            return;
        string? id = await applications.GetIdAsync(program, cancel);
        await tokens.RevokeAsync(person.ToString(), id, null, null, cancel);
        await consents.RevokeAsync(person.ToString(), id, null, null, cancel);
    }

    /// <summary>Who registered a program, from its client ID.</summary>
    public static Guid OwnerOf(string? clientId) =>
        Guid.TryParseExact(clientId?.Split('-')[0], "N", out var owner) ? owner : Guid.Empty;

    private static DateTime Earlier(DateTime known, DateTime now) => known == default || now < known ? now : known;

    // A code that travels without TLS can be read on its way, except within one machine.
    private static Uri Redirect(string address) =>
        Uri.TryCreate(address, UriKind.Absolute, out var uri)
        && uri.Fragment.Length == 0
        && (uri.Scheme == Uri.UriSchemeHttps || (uri.Scheme == Uri.UriSchemeHttp && uri.IsLoopback))
            ? uri
            : throw new RefusedException(
                RefusalKind.Wrong,
                "The redirect address begins with https://, or with http://localhost for a program on people's own machines."
            );

    private async Task<RegisteredProgram> ShownAsync(object program, CancellationToken cancel) =>
        new(
            await applications.GetClientIdAsync(program, cancel) ?? "",
            await applications.GetDisplayNameAsync(program, cancel) ?? "",
            (await applications.GetRedirectUrisAsync(program, cancel)).FirstOrDefault(),
            await applications.HasClientTypeAsync(program, ClientTypes.Confidential, cancel)
        );
}
