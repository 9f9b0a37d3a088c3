using System.Buffers;
using System.Globalization;
using System.Net;
using System.Net.Sockets;
using MimeKit;
using SmtpServer;
using SmtpServer.Protocol;
using SmtpServer.Storage;

namespace SteadyLintel.Web;

/// <summary>A mail server that keeps what it is given and sends nothing on, for the demo and for tests; its inbox is a page.</summary>
/// <param name="configuration">The port it listens on, or one of the next (<c>Mail:StandInPort</c>); gets where it is
/// (<c>Mail:Port</c>).</param>
/// <param name="log">Told when there is no port.</param>
internal sealed class StandInMail(IConfiguration configuration, ILogger<StandInMail> log) : BackgroundService
{
    private const int MaxKept = 200,
        Tries = 10;
    private readonly List<MimeMessage> _mails = [];

    /// <summary>The mails, newest first.</summary>
    public IReadOnlyList<MimeMessage> Mails
    {
        get
        {
            lock (_mails)
                return [.. Enumerable.Reverse(_mails)];
        }
    }

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (FreePort(configuration.GetValue("Mail:StandInPort", 0)) is not { } port)
        {
            log.LogWarning("No port is free for the stand-in of a mail server: mails wait, everything else works.");
            return;
        }

        // Whoever sends asks for this.
        configuration["Mail:Port"] = port.ToString(CultureInfo.InvariantCulture);
        var options = new SmtpServerOptionsBuilder()
            .ServerName("localhost")
            .Endpoint(e => e.Endpoint(new IPEndPoint(IPAddress.Loopback, port)))
            .Build();
        var provider = new SmtpServer.ComponentModel.ServiceProvider();
        provider.Add(new Store(this));
        try
        {
            await new SmtpServer.SmtpServer(options, provider).StartAsync(stoppingToken);
        }
        catch (SocketException e)
        {
            log.LogWarning(
                "The stand-in of a mail server ended: {Reason}. Mails wait, everything else works.",
                e.Message
            );
        }
    }

    // The port asked for, or one of the next few: another program may have it.
    private static int? FreePort(int first)
    {
        for (int port = first; port < first + Tries && port <= IPEndPoint.MaxPort; port++)
        {
            try
            {
                using var probe = new TcpListener(IPAddress.Loopback, port);
                probe.Start();
                return port;
            }
            catch (SocketException)
            {
                continue;
            }
        }

        return null;
    }

    private void Keep(MimeMessage mail)
    {
        lock (_mails)
        {
            _mails.Add(mail);
            if (_mails.Count > MaxKept)
                _mails.RemoveAt(0);
        }
    }

    // By itself: the package disposes of a store with the session that used it.
    private sealed class Store(StandInMail inbox) : MessageStore
    {
        public override async Task<SmtpResponse> SaveAsync(
            ISessionContext context,
            IMessageTransaction transaction,
            ReadOnlySequence<byte> buffer,
            CancellationToken cancellationToken
        )
        {
            using var stream = new MemoryStream(buffer.ToArray());
            inbox.Keep(await MimeMessage.LoadAsync(stream, cancellationToken));
            return SmtpResponse.Ok;
        }
    }
}
