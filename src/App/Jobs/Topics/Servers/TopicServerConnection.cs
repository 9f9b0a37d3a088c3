using System.Net;
using System.Net.Sockets;

namespace SteadyLintel.Jobs;

/// <summary>The way to other servers: no redirects, no large answers, and nothing within the own network that was not allowed.</summary>
public sealed class TopicServerConnection : IDisposable
{
    private const long LargestAnswer = 128L << 20;

    private readonly TopicServerOptions _options;

    /// <summary>The way out.</summary>
    /// <param name="options">Which servers may be asked.</param>
    /// <param name="handler">Another way, for tests; null for the network.</param>
    public TopicServerConnection(TopicServerOptions options, HttpMessageHandler? handler = null)
    {
        _options = options;
        Http = new HttpClient(handler ?? Network())
        {
            Timeout = options.Wait,
            MaxResponseContentBufferSize = LargestAnswer,
        };
    }

    /// <summary>The client.</summary>
    public HttpClient Http { get; }

    /// <inheritdoc/>
    public void Dispose() => Http.Dispose();

    /// <summary>An address as a person types it, without a slash at its end.</summary>
    /// <exception cref="RefusedException">It is none, or one without TLS that was not allowed.</exception>
    public string Checked(string? typed)
    {
        string text = (typed ?? "").Trim().TrimEnd('/');
        if (!text.Contains("://", StringComparison.Ordinal))
            text = "https://" + text;
        if (
            !Uri.TryCreate(text, UriKind.Absolute, out var uri)
            || uri.Host.Length == 0
            || uri.UserInfo.Length > 0
            || uri.Scheme is not ("https" or "http")
        )
            throw new RefusedException(RefusalKind.Wrong, $"'{typed}' is no address of a server.");
        if (uri.Scheme == "http" && !IsAllowed(uri.Host))
            throw new RefusedException(
                RefusalKind.Wrong,
                "The address begins with https://: what is sent without can be read on its way."
            );
        return uri.GetLeftPart(UriPartial.Path).TrimEnd('/');
    }

    /// <summary>Whether a network address is one that everybody can reach (RFC 1918, 3927, 4193, 4291, 6598, 6890).</summary>
    public static bool IsPublic(IPAddress address)
    {
        var ip = address.IsIPv4MappedToIPv6 ? address.MapToIPv4() : address;
        if (IPAddress.IsLoopback(ip) || ip.IsIPv6LinkLocal || ip.IsIPv6SiteLocal || ip.IsIPv6Multicast)
            return false;
        byte[] b = ip.GetAddressBytes();
        if (ip.AddressFamily == AddressFamily.InterNetworkV6)
            return (b[0] & 0xFE) != 0xFC && b.Any(x => x != 0);
        return b switch
        {
            [0 or 10 or 127, ..] => false,
            [100, >= 64 and < 128, ..] => false,
            [169, 254, ..] => false,
            [172, >= 16 and < 32, ..] => false,
            [192, 168, ..] or [192, 0, 0, _] => false,
            [198, 18 or 19, ..] => false,
            [>= 224, ..] => false,
            _ => true,
        };
    }

    private bool IsAllowed(string host) => _options.Allowed.Contains(host, StringComparer.OrdinalIgnoreCase);

    private SocketsHttpHandler Network() =>
        new()
        {
            AllowAutoRedirect = false,
            UseCookies = false,
            AutomaticDecompression = DecompressionMethods.All,
            PooledConnectionLifetime = TimeSpan.FromMinutes(2),
            ConnectTimeout = TimeSpan.FromSeconds(15),
            ConnectCallback = ConnectAsync,
        };

    // Looked at where it is connected to, not where it was typed: a name may lead elsewhere the next time.
    private async ValueTask<Stream> ConnectAsync(SocketsHttpConnectionContext context, CancellationToken cancel)
    {
        var (host, port) = (context.DnsEndPoint.Host, context.DnsEndPoint.Port);
        var addresses = await Dns.GetHostAddressesAsync(host, cancel);
        if (!IsAllowed(host) && addresses.Any(a => !IsPublic(a)))
            throw new TopicServerException(
                TopicServerFault.Away,
                $"{host} is within this site's own network. Whoever runs this site can allow it (TopicServers:Allowed)."
            );
        var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        try
        {
            await socket.ConnectAsync(addresses, port, cancel);
            return new NetworkStream(socket, true);
        }
        catch
        {
            socket.Dispose();
            throw;
        }
    }
}
