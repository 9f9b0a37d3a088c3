using Microsoft.EntityFrameworkCore;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>Tokens by which programs come in for a person.</summary>
/// <param name="db">The database.</param>
public sealed class AccessTokens(LintelDb db)
{
    /// <summary>What every secret begins with.</summary>
    public const string Prefix = "lintel_";

    private const int Most = 50;

    private static readonly TimeSpan Tell = TimeSpan.FromMinutes(1);

    /// <summary>What tokens may be allowed, and what that is in words.</summary>
    public static readonly IReadOnlyDictionary<string, string> Scopes = new Dictionary<string, string>
    {
        ["read"] = "view and download what you may see",
        ["deliver"] = "send deliveries for your party",
        ["handover"] = "run orders",
        ["topics"] = "ask and answer topics (BCF API)",
    };

    /// <summary>The token of a secret, which is used then; null where it is wrong, revoked or expired.</summary>
    public async Task<AccessToken?> UseAsync(string secret)
    {
        string hash = Secrets.Hash(secret);
        var now = DateTime.UtcNow;
        var token = await db
            .AccessTokens.AsNoTracking()
            .FirstOrDefaultAsync(t => t.SecretHash == hash && t.EndedAt == null && t.ExpiresAt > now);
        if (token is not null && (token.UsedAt is null || now - token.UsedAt > Tell))
            await db
                .AccessTokens.Where(t => t.Id == token.Id)
                .ExecuteUpdateAsync(u => u.SetProperty(t => t.UsedAt, now));
        return token;
    }

    /// <summary>The good tokens of a person, the newest first.</summary>
    public Task<List<AccessToken>> OfAsync(Guid user, CancellationToken cancel) =>
        db
            .AccessTokens.AsNoTracking()
            .Where(t => t.UserId == user && t.EndedAt == null && t.ExpiresAt > DateTime.UtcNow)
            .OrderByDescending(t => t.MadeAt)
            .ToListAsync(cancel);

    /// <summary>Makes a token.</summary>
    /// <returns>Its secret, which is shown once.</returns>
    /// <exception cref="RefusedException">It says not what it may do, or is good for too long, or there are too many.</exception>
    public async Task<string> MakeAsync(
        AppUser user,
        string? name,
        IReadOnlyList<string> scopes,
        int days,
        Actor by,
        CancellationToken cancel
    )
    {
        if (scopes.Count == 0 || scopes.Any(s => !Scopes.ContainsKey(s)))
            throw new RefusedException(RefusalKind.Wrong, "Say what the token may do.");
        if (days is < 1 or > 366)
            throw new RefusedException(RefusalKind.Wrong, "A token is good for a day up to a year.");
        if ((await OfAsync(user.Id, cancel)).Count >= Most)
            throw new RefusedException(RefusalKind.Conflict, $"{Most} tokens are the most; revoke one first.");
        string secret = Prefix + Secrets.New();
        db.AccessTokens.Add(
            new AccessToken
            {
                Id = Guid.NewGuid(),
                UserId = user.Id,
                Name = InputRules.Of(name, "What the token is for", 80),
                SecretHash = Secrets.Hash(secret),
                Scopes = [.. scopes.Distinct()],
                MadeAt = DateTime.UtcNow,
                ExpiresAt = DateTime.UtcNow.AddDays(days),
            }
        );
        db.Note(by, null, "made a token: " + name, user.Email ?? "");
        await db.SaveChangesAsync(cancel);
        return secret;
    }

    /// <summary>Takes a token of a person away.</summary>
    public async Task RevokeAsync(AppUser user, Guid token, Actor by, CancellationToken cancel)
    {
        await db
            .AccessTokens.Where(t => t.Id == token && t.UserId == user.Id)
            .ExecuteUpdateAsync(u => u.SetProperty(t => t.EndedAt, DateTime.UtcNow), cancel);
        db.Note(by, null, "revoked a token", user.Email ?? "");
        await db.SaveChangesAsync(cancel);
    }
}
