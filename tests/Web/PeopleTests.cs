using System.Net;
using System.Net.Http.Headers;
using System.Security.Cryptography;
using System.Text.RegularExpressions;

namespace SteadyLintel.Tests;

/// <summary>A site without the demo, from its first account on: one server, each test with jobs and people of its own.</summary>
public sealed partial class EmptySite : IAsyncLifetime
{
    public const string Password = "a short sentence";

    public ServerProcess Server { get; private set; } = null!;

    /// <summary>The code that the start printed.</summary>
    public string Code { get; private set; } = "";

    public async ValueTask InitializeAsync()
    {
        Server = await ServerProcess.StartAsync(TestDatabase.New(), demo: false, ("Company__StandIn", "true"));
        Code = FirstCode().Match(Server.LogText).Groups[1].Value;
        using var first = new LintelClient(Server.Address);
        var made = await first.FormAsync(
            "/first",
            "",
            ("typed", Code),
            ("name", "Ada First"),
            ("email", "ada@site.example"),
            ("password", Password)
        );
        Assert.Equal("/", made.RequestMessage!.RequestUri!.AbsolutePath);
    }

    public ValueTask DisposeAsync()
    {
        Server.Dispose();
        return ValueTask.CompletedTask;
    }

    public async Task<LintelClient> SignedInAsync(string email, string password = Password)
    {
        var client = new LintelClient(Server.Address);
        await client.SignInAsync(email, password);
        return client;
    }

    /// <summary>Makes a job with two parties.</summary>
    public async Task<LintelClient> JobAsync(string code)
    {
        var ada = await SignedInAsync("ada@site.example");
        (await ada.FormAsync("/new-job", "", ("job", code), ("name", "Job " + code))).EnsureSuccessStatusCode();
        foreach (var (party, colour) in new[] { ("ARC", "#0072b2"), ("STR", "#b84a00") })
            (
                await ada.FormAsync(
                    $"/jobs/{code}/setup",
                    "Party",
                    ("party.Code", party),
                    ("party.Discipline", party + " work"),
                    ("party.Colour", colour)
                )
            ).EnsureSuccessStatusCode();
        return ada;
    }

    /// <summary>The newest link that was mailed to somebody.</summary>
    public async Task<string> LinkAsync(LintelClient client, string to, string begins)
    {
        for (int i = 0; i < 100; i++)
        {
            var links = Regex
                .Matches(
                    WebUtility.HtmlDecode(await client.GetAsync("/inbox")),
                    $"data-to=\"[^\"]*{Regex.Escape(to)}[^\"]*\".*?</article>",
                    RegexOptions.Singleline
                )
                .Select(m => Regex.Match(m.Value, $"href=\"({Regex.Escape(begins)}[^\"]+)\"").Groups[1].Value)
                .Where(l => l.Length > 0)
                .ToList();
            if (links.Count > 0)
                return links[0];
            await Task.Delay(200);
        }

        throw new TimeoutException("No mail came for " + to);
    }

    /// <summary>Invites somebody new and has the invitation taken up.</summary>
    public async Task<LintelClient> InviteAsync(
        LintelClient ada,
        string job,
        string email,
        string role,
        string party = ""
    )
    {
        string of =
            party.Length == 0
                ? ""
                : Regex
                    .Match(await ada.GetAsync($"/jobs/{job}/people"), $"<option value=\"([0-9a-f-]+)\">{party} ")
                    .Groups[1]
                    .Value;
        (
            await ada.FormAsync($"/jobs/{job}/people", "Invite", ("email", email), ("role", role), ("party", of))
        ).EnsureSuccessStatusCode();
        var guest = new LintelClient(Server.Address);
        string link = await LinkAsync(ada, email, "/invitation/");
        (
            await guest.FormAsync(link, "", ("name", email.Split('@')[0]), ("password", Password))
        ).EnsureSuccessStatusCode();
        return guest;
    }

    [GeneratedRegex("with this code: (\\S+)")]
    private static partial Regex FirstCode();
}

/// <summary>Tests that share the site, one after the other.</summary>
[CollectionDefinition(nameof(EmptySite))]
public sealed class EmptySiteCollection : ICollectionFixture<EmptySite>;

/// <summary>Jobs, parties, members, accounts: as people use them, over HTTP.</summary>
[Collection(nameof(EmptySite))]
public class PeopleTests(EmptySite site)
{
    [Fact]
    public async Task There_is_one_first_account_and_it_wants_the_code()
    {
        using var late = new LintelClient(site.Server.Address);
        Assert.Equal(HttpStatusCode.NotFound, (await late.Http.GetAsync("/first")).StatusCode);
        using var other = await ServerProcess.StartAsync(TestDatabase.New(), demo: false);
        using var guesser = new LintelClient(other.Address);
        // Signing in leads there while nobody has an account.
        Assert.Equal("/first", (await guesser.Http.GetAsync("/signin")).RequestMessage!.RequestUri!.AbsolutePath);
        var wrong = await guesser.FormAsync(
            "/first",
            "",
            ("typed", "guessed"),
            ("name", "X"),
            ("email", "x@x.example"),
            ("password", EmptySite.Password)
        );
        Assert.Contains("not the code", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.DoesNotContain(" ERR ", other.LogText, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_job_is_made_changed_put_away_brought_back_copied_and_deleted()
    {
        using var ada = await site.JobAsync("J1");
        Assert.Contains(
            "J1 already",
            await (await ada.FormAsync("/new-job", "", ("job", "j1"), ("name", "Again"))).Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "too pale",
            await (
                await ada.FormAsync(
                    "/jobs/J1/setup",
                    "Party",
                    ("party.Code", "PAL"),
                    ("party.Discipline", "x"),
                    ("party.Colour", "#ffff00")
                )
            ).Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
        string arc = Regex
            .Match(await ada.GetAsync("/jobs/J1/setup"), "<option value=\"([0-9a-f-]+)\">ARC ")
            .Groups[1]
            .Value;
        string setup = await (
            await ada.FormAsync(
                "/jobs/J1/setup",
                "Source",
                ("source.PartyId", arc),
                ("source.Name", "Terminal"),
                ("source.Kind", "Model"),
                ("source.Expected", "LOD 300, by storey"),
                ("source.Due", "2020-01-31")
            )
        ).Content.ReadAsStringAsync();
        Assert.Contains("31 Jan 2020", setup, StringComparison.Ordinal);
        Assert.Contains(
            "has sources",
            await (await ada.FormAsync("/jobs/J1/setup", "RemoveParty", ("id", arc))).Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );

        Assert.Contains(
            "is archived",
            await (await ada.FormAsync("/jobs/J1/setup", "Archive", ("away", "true"))).Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.Conflict, (await ada.FormAsync("/jobs/J1/handover", "New")).StatusCode);
        await ada.FormAsync("/jobs/J1/setup", "Archive", ("away", "false"));
        Assert.Equal(HttpStatusCode.OK, (await ada.FormAsync("/jobs/J1/handover", "New")).StatusCode);

        string like = Regex.Match(await ada.GetAsync("/new-job"), "<option value=\"([0-9a-f-]+)\">J1 ").Groups[1].Value;
        await ada.FormAsync("/new-job", "", ("job", "J1B"), ("name", "Like it"), ("like", like));
        string copy = await ada.GetAsync("/jobs/J1B/setup");
        Assert.Contains("Terminal", copy, StringComparison.Ordinal);
        Assert.Contains("LOD 300", copy, StringComparison.Ordinal);
        Assert.Contains("Order 1", await ada.GetAsync("/jobs/J1B/handover"), StringComparison.Ordinal);

        Assert.Contains(
            "Type J1 to delete",
            await (await ada.FormAsync("/jobs/J1/setup", "Delete", ("typed", "J2"))).Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
        await ada.FormAsync("/jobs/J1/setup", "Delete", ("typed", "j1"));
        Assert.Equal(HttpStatusCode.NotFound, (await ada.Http.GetAsync("/jobs/J1")).StatusCode);
        string record = await ada.GetAsync("/jobs/J1B/record");
        Assert.Contains("made the job", record, StringComparison.Ordinal);
        Assert.Contains("Ada First", await ada.GetAsync("/jobs/J1B/record?handler=Csv"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_invitation_is_good_once_can_be_withdrawn_and_a_job_keeps_its_last_coordinator()
    {
        using var ada = await site.JobAsync("J2");
        using var bob = await site.InviteAsync(ada, "J2", "bob@site.example", "Contributor", "STR");
        Assert.Contains("Job J2", await bob.GetAsync("/"), StringComparison.Ordinal);
        string link = await site.LinkAsync(ada, "bob@site.example", "/invitation/");
        Assert.Contains("has expired or was used", await ada.GetAsync(link), StringComparison.Ordinal);

        await ada.FormAsync("/jobs/J2/people", "Invite", ("email", "eve@site.example"), ("role", "Reader"));
        string eves = await site.LinkAsync(ada, "eve@site.example", "/invitation/");
        string id = Regex
            .Match(
                await ada.GetAsync("/jobs/J2/people"),
                "eve@site.example.*?name=\"id\" value=\"([0-9a-f-]+)\"",
                RegexOptions.Singleline
            )
            .Groups[1]
            .Value;
        await ada.FormAsync("/jobs/J2/people", "Withdraw", ("id", id));
        Assert.Contains("has expired or was used", await ada.GetAsync(eves), StringComparison.Ordinal);

        string people = await ada.GetAsync("/jobs/J2/people");
        string Id(string email) =>
            Regex
                .Match(
                    people,
                    $"data-member=\"{email}\".*?name=\"user\" value=\"([0-9a-f-]+)\"",
                    RegexOptions.Singleline
                )
                .Groups[1]
                .Value;
        var last = await ada.FormAsync("/jobs/J2/people", "Remove", ("user", Id("ada@site.example")));
        Assert.Equal(HttpStatusCode.Conflict, last.StatusCode);
        Assert.Contains("needs a coordinator", await last.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        // Passed on, it can be left.
        await ada.FormAsync("/jobs/J2/people", "Change", ("user", Id("bob@site.example")), ("role", "Coordinator"));
        Assert.Equal(
            "/",
            (await ada.FormAsync("/jobs/J2/people", "Remove", ("user", Id("ada@site.example"))))
                .RequestMessage!
                .RequestUri!
                .AbsolutePath
        );
        Assert.Equal(HttpStatusCode.NotFound, (await ada.Http.GetAsync("/jobs/J2")).StatusCode);
        Assert.Contains("settings, people, activity log", await bob.GetAsync("/jobs/J2"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Contributors_see_files_of_others_only_when_the_job_says_so_and_recipients_only_what_was_handed_over()
    {
        using var ada = await site.JobAsync("J3");
        using var bob = await site.InviteAsync(ada, "J3", "bob3@site.example", "Contributor", "STR");
        using var rita = await site.InviteAsync(ada, "J3", "rita@site.example", "Recipient", "STR");
        await ada.TokenAsync("/jobs/J3");
        string arc = Regex
            .Match(await ada.GetAsync("/jobs/J3/receive"), "<option value=\"([0-9a-f-]+)\">ARC ")
            .Groups[1]
            .Value;
        string begun = await (
            await ada.PostAsync($"/jobs/J3/receive?handler=Begin&party={arc}&source=Terminal&fileName=a.ifc&length=10")
        ).Content.ReadAsStringAsync();
        string id = Regex.Match(begun, "[0-9a-f-]{36}").Value;
        Assert.Contains("a.ifc", await ada.GetAsync("/jobs/J3/receive"), StringComparison.Ordinal);
        Assert.DoesNotContain("a.ifc", await bob.GetAsync("/jobs/J3/receive"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Forbidden, (await bob.Http.GetAsync($"/jobs/J3/deliveries/{id}")).StatusCode);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await bob.Http.GetAsync($"/jobs/J3/deliveries/{id}?handler=Original")).StatusCode
        );
        await ada.FormAsync("/jobs/J3/setup", "Job", ("name", "Job J3"), ("shares", "true"));
        Assert.Equal(HttpStatusCode.OK, (await bob.Http.GetAsync($"/jobs/J3/deliveries/{id}")).StatusCode);
        // Its bytes are not all here.
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await bob.Http.GetAsync($"/jobs/J3/deliveries/{id}?handler=Original")).StatusCode
        );
        Assert.Contains("a.ifc", await bob.GetAsync("/jobs/J3/receive"), StringComparison.Ordinal);

        Assert.Equal(
            "/jobs/J3/delivered",
            (await rita.Http.GetAsync("/jobs/J3")).RequestMessage!.RequestUri!.AbsolutePath
        );
        foreach (
            string path in new[]
            {
                "receive",
                "combine",
                "handover",
                $"deliveries/{id}",
                "setup",
                "combine?handler=Scene",
            }
        )
            Assert.Equal(HttpStatusCode.NotFound, (await rita.Http.GetAsync($"/jobs/J3/{path}")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await rita.Http.GetAsync("/jobs/J3/delivered")).StatusCode);
    }

    [Fact]
    public async Task A_forgotten_password_is_set_anew_by_mail_and_ends_every_session()
    {
        using var ada = await site.JobAsync("J4");
        using var cid = await site.InviteAsync(ada, "J4", "cid@site.example", "Reader");
        using var nobody = new LintelClient(site.Server.Address);
        string known = await (
            await nobody.FormAsync("/forgot", "", ("email", "cid@site.example"))
        ).Content.ReadAsStringAsync();
        string unknown = await (
            await nobody.FormAsync("/forgot", "", ("email", "none@site.example"))
        ).Content.ReadAsStringAsync();
        Assert.Equal(Text(known), Text(unknown));
        string link = await site.LinkAsync(ada, "cid@site.example", "/forgot?");
        var query = System.Web.HttpUtility.ParseQueryString(new Uri(site.Server.Address, link).Query);
        (
            await nobody.FormAsync(
                link,
                "Reset",
                ("id", query["id"]!),
                ("token", query["token"]!),
                ("password", "another sentence")
            )
        ).EnsureSuccessStatusCode();
        Assert.Equal("/signin", (await cid.Http.GetAsync("/")).RequestMessage!.RequestUri!.AbsolutePath);
        using var again = await site.SignedInAsync("cid@site.example", "another sentence");
        Assert.Contains("Job J4", await again.GetAsync("/"), StringComparison.Ordinal);
        // The link is good once.
        Assert.Contains(
            "has expired or was used",
            await (
                await nobody.FormAsync(
                    link,
                    "Reset",
                    ("id", query["id"]!),
                    ("token", query["token"]!),
                    ("password", "a third sentence")
                )
            ).Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task The_second_factor_is_asked_for_and_a_recovery_code_is_good_once()
    {
        using var ada = await site.JobAsync("J5");
        using var dan = await site.InviteAsync(ada, "J5", "dan@site.example", "Reader");
        string page = await (await dan.FormAsync("/account", "Begin")).Content.ReadAsStringAsync();
        string key = Regex
            .Match(page, "class=\"secret mt-2\">([a-z2-7 ]+)<")
            .Groups[1]
            .Value.Replace(" ", "", StringComparison.Ordinal)
            .ToUpperInvariant();
        Assert.Contains(
            "not right",
            await (await dan.FormAsync("/account", "On", ("code", "000000"))).Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
        string on = await (await dan.FormAsync("/account", "On", ("code", Totp(key)))).Content.ReadAsStringAsync();
        string recovery = Regex.Match(on, "<li>([A-Z0-9-]{5,})</li>").Groups[1].Value;

        using var later = new LintelClient(site.Server.Address);
        var asked = await later.FormAsync(
            "/signin",
            "",
            ("Email", "dan@site.example"),
            ("Password", EmptySite.Password)
        );
        Assert.Equal("/signin/code", asked.RequestMessage!.RequestUri!.AbsolutePath);
        Assert.Equal("/signin", (await later.Http.GetAsync("/account")).RequestMessage!.RequestUri!.AbsolutePath);
        Assert.Equal(
            "/",
            (await later.FormAsync("/signin/code", "", ("code", recovery))).RequestMessage!.RequestUri!.AbsolutePath
        );
        using var twice = new LintelClient(site.Server.Address);
        await twice.FormAsync("/signin", "", ("Email", "dan@site.example"), ("Password", EmptySite.Password));
        Assert.Contains(
            "not right",
            await (await twice.FormAsync("/signin/code", "", ("code", recovery))).Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Sessions_end_at_the_server_at_once()
    {
        using var ada = await site.JobAsync("J6");
        using var one = await site.InviteAsync(ada, "J6", "fay@site.example", "Reader");
        using var two = await site.SignedInAsync("fay@site.example");
        Assert.Contains("Sign out all others", await one.GetAsync("/account"), StringComparison.Ordinal);
        await one.FormAsync("/account", "End");
        Assert.Equal("/signin", (await two.Http.GetAsync("/account")).RequestMessage!.RequestUri!.AbsolutePath);
        Assert.Contains("fay@site.example", await one.GetAsync("/account"), StringComparison.Ordinal);
        // A copy of the cookie is of no use once its owner has signed out.
        using var thief = one.At(site.Server.Address);
        Assert.Contains("fay@site.example", await thief.GetAsync("/account"), StringComparison.Ordinal);
        await one.TokenAsync("/account");
        await one.PostAsync("/signout");
        Assert.Equal("/signin", (await thief.Http.GetAsync("/account")).RequestMessage!.RequestUri!.AbsolutePath);
    }

    [Fact]
    public async Task A_token_does_what_its_scopes_say_and_no_more()
    {
        using var ada = await site.JobAsync("J7");
        string made = await (
            await ada.FormAsync("/account", "Token", ("name", "nightly"), ("scope", "read"), ("days", "30"))
        ).Content.ReadAsStringAsync();
        string secret = Regex.Match(made, "id=\"secret\">(lintel_[\\w-]+)<").Groups[1].Value;
        using var program = new HttpClient(new HttpClientHandler { AllowAutoRedirect = false })
        {
            BaseAddress = site.Server.Address,
        };
        program.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", secret);
        Assert.Contains("Job J7", await program.GetStringAsync("/jobs/J7"), StringComparison.Ordinal);
        string arc = Regex
            .Match(await program.GetStringAsync("/jobs/J7/receive"), "<option value=\"([0-9a-f-]+)\">ARC ")
            .Groups[1]
            .Value;
        string begin = $"/jobs/J7/receive?handler=Begin&party={arc}&source=S&fileName=a.ifc&length=10";
        Assert.Equal(HttpStatusCode.Forbidden, (await program.PostAsync(begin, null)).StatusCode);
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await program.PostAsync("/jobs/J7/setup?handler=Archive&away=true", null)).StatusCode
        );
        // The account itself is not for programs.
        Assert.NotEqual(HttpStatusCode.OK, (await program.GetAsync("/account")).StatusCode);

        made = await (
            await ada.FormAsync("/account", "Token", ("name", "sender"), ("scope", "deliver"), ("days", "1"))
        ).Content.ReadAsStringAsync();
        program.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue(
            "Bearer",
            Regex.Match(made, "id=\"secret\">(lintel_[\\w-]+)<").Groups[1].Value
        );
        Assert.Equal(HttpStatusCode.OK, (await program.PostAsync(begin, null)).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await program.GetAsync("/jobs/J7")).StatusCode);
        string id = Regex
            .Match(
                await ada.GetAsync("/account"),
                "sender</td>.*?name=\"id\" value=\"([0-9a-f-]+)\"",
                RegexOptions.Singleline
            )
            .Groups[1]
            .Value;
        await ada.FormAsync("/account", "Revoke", ("id", id));
        Assert.Equal(HttpStatusCode.Unauthorized, (await program.PostAsync(begin, null)).StatusCode);
    }

    private static string Text(string page) =>
        Regex.Replace(Regex.Match(page, "<main.*</main>", RegexOptions.Singleline).Value, "value=\"[^\"]*\"", "");

    // RFC 6238: HMAC-SHA-1 over the number of half minutes, truncated as RFC 4226, 5.3 says.
    private static string Totp(string base32)
    {
        const string letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";
        var bits = string.Concat(base32.Select(c => Convert.ToString(letters.IndexOf(c), 2).PadLeft(5, '0')));
        byte[] key = [.. Enumerable.Range(0, bits.Length / 8).Select(i => Convert.ToByte(bits.Substring(i * 8, 8), 2))];
        byte[] counter = BitConverter.GetBytes(
            System.Net.IPAddress.HostToNetworkOrder(DateTimeOffset.UtcNow.ToUnixTimeSeconds() / 30)
        );
        byte[] hash = HMACSHA1.HashData(key, counter);
        int at = hash[^1] & 15;
        int number = ((hash[at] & 127) << 24) | (hash[at + 1] << 16) | (hash[at + 2] << 8) | hash[at + 3];
        return (number % 1_000_000).ToString("000000", System.Globalization.CultureInfo.InvariantCulture);
    }
}
