using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using MimeKit;

namespace SteadyLintel.Web.Pages;

/// <summary>What the stand-in mail server was given; there is no such page where mails go out.</summary>
public sealed class InboxModel(IServiceProvider services) : PageModel
{
    /// <summary>The mails, newest first.</summary>
    public IReadOnlyList<MimeMessage> Mails { get; private set; } = [];

    /// <summary>Lists the mails.</summary>
    public IActionResult OnGet()
    {
        if (services.GetService<StandInMail>() is not { } stand)
            return NotFound();
        Mails = stand.Mails;
        return Page();
    }
}
