using MailKit.Net.Smtp;
using MailKit.Security;
using MimeKit;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web;

/// <summary>Sends the mails that wait, by SMTP. Without <c>Mail:Host</c> they wait on.</summary>
internal sealed class MailSender(
    IServiceProvider services,
    IConfiguration configuration,
    SiteAddress site,
    ILogger<MailSender> log
) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(2);

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (string.IsNullOrEmpty(configuration["Mail:Host"]))
            return;
        using var timer = new PeriodicTimer(Pause);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                await using var scope = services.CreateAsyncScope();
                await scope
                    .ServiceProvider.GetRequiredService<MailQueue>()
                    .SendDueAsync(m => SendAsync(m, stoppingToken), stoppingToken);
            }
            catch (Exception e)
                when ((e.InnerException ?? e) is System.Data.Common.DbException or InvalidOperationException)
            {
                log.LogWarning("Mails were not looked for: {Reason}", e.Message);
            }
        }
    }

    private async Task SendAsync(OutgoingMail mail, CancellationToken cancel)
    {
        using var message = new MimeMessage();
        message.From.Add(MailboxAddress.Parse(configuration["Mail:From"] ?? "lintel@localhost"));
        message.To.Add(MailboxAddress.Parse(mail.To));
        message.Subject = mail.Subject;
        message.Body = new TextPart("plain")
        {
            Text = mail.Text.Replace(Mailbox.Site, site.Value, StringComparison.Ordinal),
        };
        using var smtp = new SmtpClient { Timeout = 20_000 };
        var security = configuration.GetValue("Mail:Tls", true)
            ? SecureSocketOptions.StartTls
            : SecureSocketOptions.None;
        await smtp.ConnectAsync(
            configuration["Mail:Host"]!,
            configuration.GetValue("Mail:Port", 587),
            security,
            cancel
        );
        if (configuration["Mail:User"] is { Length: > 0 } user)
            await smtp.AuthenticateAsync(user, configuration["Mail:Password"] ?? "", cancel);
        await smtp.SendAsync(message, cancel);
        await smtp.DisconnectAsync(true, cancel);
    }
}
