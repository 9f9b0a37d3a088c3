using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>The code that lets whoever started the site make its first account. It is printed at the start and good until there is an
/// account.</summary>
public sealed class FirstCode
{
    private readonly string _code = Secrets.New()[..12];

    /// <summary>Whether a code is the one that was printed.</summary>
    public bool Is(string? typed) =>
        System.Security.Cryptography.CryptographicOperations.FixedTimeEquals(
            System.Text.Encoding.UTF8.GetBytes(typed?.Trim() ?? ""),
            System.Text.Encoding.UTF8.GetBytes(_code)
        );

    /// <summary>Prints the code when there is no account yet.</summary>
    public async Task AnnounceAsync(Accounts accounts)
    {
        if (!await accounts.AnyAsync())
            Console.Out.WriteLine(
                $"\nThere is no account yet. Open the site and make the first one with this code: {_code}\n"
            );
    }
}
