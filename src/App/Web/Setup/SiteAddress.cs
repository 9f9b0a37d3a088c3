using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;

namespace SteadyLintel.Web;

/// <summary>The site's address, for links in mails. Never the request's: whoever asks writes that one.</summary>
/// <param name="configuration">Has it (<c>Site:Address</c>): behind a proxy the server does not know it.</param>
/// <param name="server">The address that it listens at, where none is set.</param>
public sealed class SiteAddress(IConfiguration configuration, IServer server)
{
    private static readonly string[] AnyHost = ["+", "*", "[::]", "0.0.0.0"];

    /// <summary>The address without a slash at its end.</summary>
    public string Value =>
        (configuration["Site:Address"] is { Length: > 0 } address ? address : Listening()).TrimEnd('/');

    private string Listening()
    {
        string address = server.Features.Get<IServerAddressesFeature>()?.Addresses.FirstOrDefault()
            ?? "http://localhost";
        foreach (string any in AnyHost)
            address = address.Replace($"://{any}", "://localhost", StringComparison.Ordinal);
        return address;
    }
}
