using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;

namespace SteadyLintel.Jobs;

/// <summary>Secrets that are handed out once and kept as their hash: links of invitations, tokens of programs.</summary>
public static class Secrets
{
    /// <summary>A new secret of 256 random bits, fit for addresses.</summary>
    public static string New() => Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(32));

    /// <summary>What is kept of a secret. Random secrets need no salt and no slow hash: there is nothing to guess.</summary>
    public static string Hash(string secret) =>
        Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(secret)));
}
