using System.Security.Cryptography;
using Microsoft.AspNetCore.DataProtection;

namespace SteadyLintel.Web;

/// <summary>Keys of calendar addresses: calendars cannot sign in, so the address itself says whose it is, and cannot be guessed.</summary>
public sealed class CalendarKeys(IDataProtectionProvider protection)
{
    private readonly IDataProtector _protector = protection.CreateProtector("calendar of due dates");

    /// <summary>The key of a person in a job.</summary>
    public string Of(Guid job, Guid person) => _protector.Protect($"{job:N}{person:N}");

    /// <summary>Whose key it is; null where it is none of ours.</summary>
    public (Guid Job, Guid Person)? Read(string key)
    {
        try
        {
            string text = _protector.Unprotect(key);
            return (Guid.Parse(text[..32]), Guid.Parse(text[32..]));
        }
        catch (Exception e) when (e is CryptographicException or FormatException or ArgumentException)
        {
            return null;
        }
    }
}
