using System.Buffers;
using System.Net;
using MimeKit;
using SmtpServer;
using SmtpServer.Protocol;
using SmtpServer.Storage;

namespace SteadyLintel.Web;

/// <summary>A mail server that keeps what it is given and sends nothing on, for the demo and for tests; its inbox is a page.</summary>
/// <param name="configuration">The port it listens on (<c>Mail:StandInPort</c>).</param>
internal sealed class StandInMail(IConfiguration configuration) : BackgroundService
{
    private const int MaxKept = 200;
    private readonly List<MimeMessage> _mails = [];

    /// <summary>The mails, newest first.</summary>
    public IReadOnlyList<MimeMessage> Mails
    {
        get
        {
            lock (_mails) return [.. Enumerable.Reverse(_mails)];
        }
    }

    /// <inheritdoc/>
    protected override Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var at = new IPEndPoint(IPAddress.Loopback, configuration.GetValue("Mail:StandInPort", 0));
        var options = new SmtpServerOptionsBuilder().ServerName("localhost").Endpoint(e => e.Endpoint(at)).Build();
        var provider = new SmtpServer.ComponentModel.ServiceProvider();
        provider.Add(new Store(this));
        return new SmtpServer.SmtpServer(options, provider).StartAsync(stoppingToken);
    }

    private void Keep(MimeMessage mail)
    {
        lock (_mails)
        {
            _mails.Add(mail);
            if (_mails.Count > MaxKept) _mails.RemoveAt(0);
        }
    }

    // By itself: the package disposes of a store with the session that used it.
    private sealed class Store(StandInMail inbox) : MessageStore
    {
        public override async Task<SmtpResponse> SaveAsync(ISessionContext context, IMessageTransaction transaction,
            ReadOnlySequence<byte> buffer, CancellationToken cancellationToken)
        {
            using var stream = new MemoryStream(buffer.ToArray());
            inbox.Keep(await MimeMessage.LoadAsync(stream, cancellationToken));
            return SmtpResponse.Ok;
        }
    }
}
