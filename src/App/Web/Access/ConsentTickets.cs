using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;

namespace SteadyLintel.Web;

/// <summary>What makes the link by which a person consents to a program one that no other page can make.</summary>
/// <remarks>A link and no form: the answer leads to another site, and forms of these pages lead nowhere else.</remarks>
public sealed class ConsentTickets(IDataProtectionProvider protection)
{
    private static readonly TimeSpan Valid = TimeSpan.FromMinutes(10);

    private readonly ITimeLimitedDataProtector _protector = protection
        .CreateProtector("consent to a program")
        .ToTimeLimitedDataProtector();

    /// <summary>A ticket for one person and one request.</summary>
    public string For(Guid person, string request) => _protector.Protect($"{person:N} {Hash(request)}", Valid);

    /// <summary>Whether a ticket is for this person and this request.</summary>
    public bool Is(string ticket, Guid person, string request)
    {
        try
        {
            return _protector.Unprotect(ticket) == $"{person:N} {Hash(request)}";
        }
        catch (CryptographicException)
        {
            return false;
        }
    }

    private static string Hash(string request) =>
        Convert.ToHexString(SHA256.HashData(System.Text.Encoding.UTF8.GetBytes(request)));
}
