using System.Text.Encodings.Web;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using QRCoder;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Web.Pages.Account;

/// <summary>A person's own account: name, password, second factor, sessions, tokens.</summary>
[Authorize(AuthenticationSchemes = "Identity.Application")]
public sealed class IndexModel(
    UserManager<AppUser> users,
    LintelSignIn signIn,
    SignInSessions sessions,
    AccessTokens tokens,
    Accounts accounts,
    RegisteredPrograms programs
) : PageModel
{
    private const int RecoveryCodes = 10;

    /// <summary>The account.</summary>
    public AppUser Account { get; private set; } = null!;

    /// <summary>Its open sessions, last seen first.</summary>
    public IReadOnlyList<SignInSession> Open { get; private set; } = [];

    /// <summary>Its good tokens.</summary>
    public IReadOnlyList<AccessToken> Tokens { get; private set; } = [];

    /// <summary>The programs that the person registered.</summary>
    public IReadOnlyList<RegisteredProgram> Programs { get; private set; } = [];

    /// <summary>The programs that act for the person.</summary>
    public IReadOnlyList<(string ClientId, string Name, DateTime Since)> Allowed { get; private set; } = [];

    /// <summary>This session.</summary>
    public Guid Here => Sessions.Of(User);

    /// <summary>The key for an authenticator, in groups of four, while the second factor is being set up.</summary>
    public string? Key { get; private set; }

    /// <summary>The key as a picture to scan, SVG.</summary>
    public string? Picture { get; private set; }

    /// <summary>What is wrong.</summary>
    public string? Problem { get; private set; }

    /// <summary>What was done.</summary>
    [TempData]
    public string? Done { get; set; }

    /// <summary>A secret that is shown once.</summary>
    [TempData]
    public string? Secret { get; set; }

    /// <summary>Client ID and, after a blank, secret of a program that was just registered.</summary>
    [TempData]
    public string? Registered { get; set; }

    /// <summary>Recovery codes that are shown once, parted by blanks.</summary>
    [TempData]
    public string? Codes { get; set; }

    /// <summary>Shows the account.</summary>
    public Task OnGetAsync() => LoadAsync();

    /// <summary>Changes name, time zone and how lengths are written.</summary>
    public Task<IActionResult> OnPostNameAsync(string? name, string? zone, string? lengths, bool keys) =>
        TryAsync(
            async () =>
            {
                Account.DisplayName = InputRules.Of(name, "The name", 80);
                Account.TimeZone = zone is { Length: > 0 }
                    ? ReaderZone.Names.Contains(zone)
                        ? zone
                        : throw new RefusedException(RefusalKind.Wrong, "Choose a time zone of the list.")
                    : "";
                Account.SingleKeys = keys;
                Account.Lengths = ReaderUnit.All.Any(u => u.Word == lengths) ? lengths! : "";
                AccountMaker.Check(await users.UpdateAsync(Account));
                await NoteAsync("changed the account");
                await AgainAsync();
            },
            "Saved."
        );

    /// <summary>Changes the password; every other browser is signed out.</summary>
    public Task<IActionResult> OnPostPasswordAsync(string? old, string? password) =>
        TryAsync(
            async () =>
            {
                AccountMaker.Check(await users.ChangePasswordAsync(Account, old ?? "", password ?? ""));
                await sessions.EndAsync(Account.Id, but: Here);
                await NoteAsync("changed the password");
            },
            "The password is changed; every other browser is signed out."
        );

    /// <summary>Begins to set the second factor up.</summary>
    public async Task<IActionResult> OnPostBeginAsync()
    {
        await LoadAsync();
        if (Account.TwoFactorEnabled)
            return Redirect("/account");
        await users.ResetAuthenticatorKeyAsync(Account);
        await ShowKeyAsync();
        return Page();
    }

    /// <summary>Turns the second factor on, when the authenticator shows the right code.</summary>
    public async Task<IActionResult> OnPostOnAsync(string? code)
    {
        await LoadAsync();
        string typed = (code ?? "").Replace(" ", "", StringComparison.Ordinal);
        if (!await users.VerifyTwoFactorTokenAsync(Account, TokenOptions.DefaultAuthenticatorProvider, typed))
        {
            Problem = "This code is not right; type the six digits that the authenticator shows now.";
            await ShowKeyAsync();
            return Page();
        }

        await users.SetTwoFactorEnabledAsync(Account, true);
        Codes = string.Join(' ', await users.GenerateNewTwoFactorRecoveryCodesAsync(Account, RecoveryCodes) ?? []);
        await NoteAsync("switched the second factor on");
        Done = "The second factor is on.";
        return Redirect("/account");
    }

    /// <summary>Turns the second factor off.</summary>
    public Task<IActionResult> OnPostOffAsync(string? password) =>
        TryAsync(
            async () =>
            {
                if (!await users.CheckPasswordAsync(Account, password ?? ""))
                    throw new RefusedException(RefusalKind.Forbidden, "The password is not right.");
                await users.SetTwoFactorEnabledAsync(Account, false);
                await users.ResetAuthenticatorKeyAsync(Account);
                await NoteAsync("switched the second factor off");
            },
            "The second factor is off."
        );

    /// <summary>Ends one session, or all but this.</summary>
    public Task<IActionResult> OnPostEndAsync(Guid? id) =>
        TryAsync(
            async () =>
            {
                await sessions.EndAsync(Account.Id, id, id is null ? Here : null);
                await NoteAsync(id is null ? "signed all other browsers out" : "signed a browser out");
            },
            "Signed out there."
        );

    /// <summary>Makes a token.</summary>
    public Task<IActionResult> OnPostTokenAsync(string? name, string[] scope, int days) =>
        TryAsync(
            async () =>
                Secret = await tokens.MakeAsync(
                    Account,
                    name,
                    scope,
                    days,
                    Caller.Actor(HttpContext),
                    HttpContext.RequestAborted
                ),
            "The token is made."
        );

    /// <summary>Takes a token back.</summary>
    public Task<IActionResult> OnPostRevokeAsync(Guid id) =>
        TryAsync(
            () => tokens.RevokeAsync(Account, id, Caller.Actor(HttpContext), HttpContext.RequestAborted),
            "The token is revoked."
        );

    /// <summary>Registers a program.</summary>
    public Task<IActionResult> OnPostProgramAsync(string? name, string? redirect, bool secret) =>
        TryAsync(
            async () =>
            {
                var (id, its) = await programs.AddAsync(Account.Id, name, redirect, secret, HttpContext.RequestAborted);
                Registered = $"{id} {its}".TrimEnd();
                await NoteAsync("registered a program: " + name);
            },
            "The program is registered."
        );

    /// <summary>Removes a program.</summary>
    public Task<IActionResult> OnPostRemoveProgramAsync(string? id) =>
        TryAsync(
            async () =>
            {
                await programs.RemoveAsync(Account.Id, id, HttpContext.RequestAborted);
                await NoteAsync("removed a program");
            },
            "The program is removed; its tokens are revoked."
        );

    /// <summary>Lets a program no longer act for the person.</summary>
    public Task<IActionResult> OnPostForbidAsync(string? id) =>
        TryAsync(
            async () =>
            {
                await programs.ForbidAsync(Account.Id, id, HttpContext.RequestAborted);
                await NoteAsync("ended a consent to a program");
            },
            "The program no longer acts for you."
        );

    private async Task<IActionResult> TryAsync(Func<Task> what, string done)
    {
        await LoadAsync();
        try
        {
            await what();
        }
        catch (RefusedException e)
        {
            accounts.Forget();
            Problem = e.Message;
            await LoadAsync();
            return Page();
        }

        Done = done;
        return Redirect("/account");
    }

    // The cookie tells name and zone; the session goes on with another.
    private async Task AgainAsync()
    {
        bool stays = Open.FirstOrDefault(s => s.Id == Here)?.Stays == true;
        await sessions.EndAsync(Account.Id, Here);
        await signIn.SignInAsync(Account, stays);
    }

    private Task NoteAsync(string did) =>
        accounts.NoteAsync(Caller.Actor(HttpContext), did, Account.Email ?? "", HttpContext.RequestAborted);

    private async Task ShowKeyAsync()
    {
        string key = await users.GetAuthenticatorKeyAsync(Account) ?? "";
        Key = string.Join(' ', key.ToLowerInvariant().Chunk(4).Select(c => new string(c)));
        string address =
            $"otpauth://totp/{UrlEncoder.Default.Encode("Steady Lintel")}:{UrlEncoder.Default.Encode(Account.Email!)}?secret={key}&issuer={UrlEncoder.Default.Encode("Steady Lintel")}&digits=6";
        using var code = QRCodeGenerator.GenerateQrCode(address, QRCodeGenerator.ECCLevel.M);
        Picture = new SvgQRCode(code).GetGraphic(4);
    }

    private async Task LoadAsync()
    {
        Account = await users.GetUserAsync(User)
            ?? throw new RefusedException(RefusalKind.Unknown, "There is no such account.");
        Open = await sessions.OfAsync(Account.Id, HttpContext.RequestAborted);
        Tokens = await tokens.OfAsync(Account.Id, HttpContext.RequestAborted);
        Programs = await programs.OfAsync(Account.Id, HttpContext.RequestAborted);
        Allowed = await programs.AllowedAsync(Account.Id, HttpContext.RequestAborted);
    }
}
