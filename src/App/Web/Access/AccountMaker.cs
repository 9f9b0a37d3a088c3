using Microsoft.AspNetCore.Identity;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>Makes accounts.</summary>
/// <param name="users">Keeps them.</param>
public sealed class AccountMaker(UserManager<AppUser> users)
{
    /// <summary>Makes an account.</summary>
    /// <exception cref="RefusedException">A word is wrong, the address has an account, or the password is too short.</exception>
    public async Task<AppUser> MakeAsync(string email, string? name, string? password, bool administrator)
    {
        var user = new AppUser
        {
            Id = Guid.NewGuid(),
            UserName = email,
            Email = email,
            EmailConfirmed = true,
            DisplayName = InputRules.Of(name, "The name", 80),
            IsAdministrator = administrator,
        };
        Check(await users.CreateAsync(user, password ?? ""));
        return user;
    }

    /// <summary>Turns the answer of the accounts' keeper into a sentence.</summary>
    /// <exception cref="RefusedException">It is no yes.</exception>
    public static void Check(IdentityResult result)
    {
        if (!result.Succeeded)
            throw new RefusedException(RefusalKind.Wrong, string.Join(" ", result.Errors.Select(e => e.Description)));
    }
}
