using Microsoft.AspNetCore.Identity;
using OtpNet;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>Checks codes of an authenticator (RFC 6238): each is good once (5.2), one step of half a minute early or late.</summary>
/// <param name="accounts">Has the step of the last code of each account.</param>
public sealed class OnceAuthenticator(Accounts accounts) : AuthenticatorTokenProvider<AppUser>
{
    /// <inheritdoc/>
    public override async Task<bool> ValidateAsync(
        string purpose,
        string token,
        UserManager<AppUser> manager,
        AppUser user
    )
    {
        if (await manager.GetAuthenticatorKeyAsync(user) is not { Length: > 0 } key)
            return false;
        var code = new Totp(Base32Encoding.ToBytes(key));
        if (!code.VerifyTotp(token, out long step, VerificationWindow.RfcSpecifiedNetworkDelay))
            return false;
        return await accounts.UseStepAsync(user.Id, step);
    }
}
