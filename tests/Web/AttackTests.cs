using System.Net;
using System.Net.Http.Headers;
using System.Text.RegularExpressions;

namespace SteadyLintel.Tests;

/// <summary>What somebody tries who means harm, or who sends what no form does: there is always an answer, and never a server error.</summary>
[Collection(nameof(EmptySite))]
public class AttackTests(EmptySite site)
{
    private static async Task<HttpClient> ProgramAsync(EmptySite site, LintelClient person, string scope)
    {
        string made = await (
            await person.FormAsync("/account", "Token", ("name", scope), ("scope", scope), ("days", "1"))
        ).Content.ReadAsStringAsync();
        var program = new HttpClient(new HttpClientHandler { AllowAutoRedirect = false })
        {
            BaseAddress = site.Server.Address,
        };
        program.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue(
            "Bearer",
            Regex.Match(made, "id=\"secret\">(lintel_[\\w-]+)<").Groups[1].Value
        );
        return program;
    }

    private static async Task<HttpStatusCode> SignInAsync(
        LintelClient client,
        string email,
        string password,
        string? from = null,
        string? token = null
    )
    {
        var request = new HttpRequestMessage(HttpMethod.Post, "/signin")
        {
            Content = new FormUrlEncodedContent(
                new Dictionary<string, string> { ["Email"] = email, ["Password"] = password }
            ),
        };
        if (from is not null)
            request.Headers.Add("X-Forwarded-For", from);
        request.Headers.Add("RequestVerificationToken", token ?? await TokenAsync(client));
        return (await client.Http.SendAsync(request)).StatusCode;
    }

    private static async Task<string> TokenAsync(LintelClient client) =>
        WebUtility.HtmlDecode(
            Regex
                .Match(
                    await client.GetAsync("/signin"),
                    "name=\"__RequestVerificationToken\" type=\"hidden\" value=\"([^\"]+)\""
                )
                .Groups[1]
                .Value
        );

    [Fact]
    public async Task Addresses_that_a_request_claims_are_not_believed()
    {
        using var client = new LintelClient(site.Server.Address);
        var answers = new List<HttpStatusCode>();
        for (int i = 0; i < 9; i++)
            answers.Add(await SignInAsync(client, "forged@site.example", "wrong", $"10.0.0.{i}"));
        Assert.Equal(HttpStatusCode.TooManyRequests, answers[^1]);
    }

    [Fact]
    public async Task Wrong_passwords_at_the_same_time_count_each()
    {
        using var client = new LintelClient(site.Server.Address);
        string token = await TokenAsync(client);
        var answers = await Task.WhenAll(
            Enumerable.Range(0, 28).Select(_ => SignInAsync(client, "many@site.example", "wrong", null, token))
        );
        Assert.Equal(6, answers.Count(a => a == HttpStatusCode.OK));
        Assert.Equal(22, answers.Count(a => a == HttpStatusCode.TooManyRequests));
    }

    [Theory]
    [InlineData(2_000_000, "x")]
    [InlineData(300, "x")]
    [InlineData(0, "x")]
    [InlineData(3, "")]
    public async Task Odd_words_of_a_sign_in_are_refused(int length, string password)
    {
        using var client = new LintelClient(site.Server.Address);
        Assert.Equal(HttpStatusCode.BadRequest, await SignInAsync(client, new string('a', length), password));
    }

    [Fact]
    public async Task A_token_that_reads_makes_no_job_and_one_that_delivers_reads_none()
    {
        using var ada = await site.SignedInAsync("ada@site.example");
        using var reads = await ProgramAsync(site, ada, "read");
        Assert.Equal(HttpStatusCode.OK, (await reads.GetAsync("/")).StatusCode);
        var made = await reads.PostAsync(
            "/new-job",
            new FormUrlEncodedContent([new("job", "TK1"), new("name", "By token")])
        );
        Assert.Equal(HttpStatusCode.Forbidden, made.StatusCode);
        using var delivers = await ProgramAsync(site, ada, "deliver");
        Assert.Equal(HttpStatusCode.Forbidden, (await delivers.GetAsync("/")).StatusCode);
    }

    [Theory]
    [InlineData("People", "Invite", "role", "9")]
    [InlineData("People", "Change", "user", "no-identity")]
    [InlineData("People", "Invite", "email", "a\0b@site.example")]
    [InlineData("Setup", "Job", "name", "a\0b")]
    [InlineData("Setup", "Limits", "lost", "all")]
    [InlineData("Handover", "Restore", "number", "many")]
    [InlineData("Levels", "Confirm", "source", "no-identity")]
    public async Task Values_of_another_kind_are_refused_in_words(
        string page,
        string handler,
        string field,
        string value
    )
    {
        string code = "AT" + Guid.NewGuid().ToString("N")[..6].ToUpperInvariant();
        using var ada = await site.JobAsync(code);
        var answer = await ada.FormAsync($"/jobs/{code}/{page.ToLowerInvariant()}", handler, (field, value));
        Assert.InRange((int)answer.StatusCode, 400, 499);
    }

    [Fact]
    public async Task Two_people_who_save_an_order_learn_of_each_other()
    {
        using var ada = await site.JobAsync("AT1");
        await ada.FormAsync("/jobs/AT1/handover", "New");
        const string order = "/jobs/AT1/handover/1";
        (string, string)[] Words(string title) =>
            [("Title", title), ("Version", "0"), ("To", "ARC"), ("Form", "ifc"), ("Name", "{source}")];
        var first = await ada.FormAsync(order, "Save", Words("First"));
        Assert.Contains("Saved.", await first.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var second = await ada.FormAsync(order, "Save", Words("Second"));
        Assert.Equal(HttpStatusCode.Conflict, second.StatusCode);
        string page = await second.Content.ReadAsStringAsync();
        Assert.Contains("has saved this order after you opened it", page, StringComparison.Ordinal);
        // The second one's words are still there, and can be saved over the first one's.
        Assert.Contains("value=\"Second\"", page, StringComparison.Ordinal);
        string version = Regex.Match(page, "name=\"Version\" value=\"(\\d+)\"").Groups[1].Value;
        var again = await ada.FormAsync(
            order,
            "Save",
            [("Version", version), .. Words("Second").Where(w => w.Item1 != "Version")]
        );
        Assert.Contains("Saved.", await again.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Contains("Second", await ada.GetAsync("/jobs/AT1/handover"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_order_is_copied_deleted_and_brought_back()
    {
        using var ada = await site.JobAsync("AT2");
        await ada.FormAsync("/jobs/AT2/handover", "New");
        var copy = await ada.FormAsync("/jobs/AT2/handover/1", "Copy");
        Assert.Equal("/jobs/AT2/handover/2", copy.RequestMessage!.RequestUri!.AbsolutePath);
        string list = await (await ada.FormAsync("/jobs/AT2/handover/2", "Delete")).Content.ReadAsStringAsync();
        Assert.Contains("Order 2 Copy of Order 1 is deleted", WebUtility.HtmlDecode(list), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await ada.Http.GetAsync("/jobs/AT2/handover/2")).StatusCode);
        await ada.FormAsync("/jobs/AT2/handover", "Restore", ("number", "2"));
        Assert.Equal(HttpStatusCode.OK, (await ada.Http.GetAsync("/jobs/AT2/handover/2")).StatusCode);
    }

    [Fact]
    public async Task An_invitation_taken_up_six_times_at_once_makes_one_member()
    {
        using var ada = await site.JobAsync("AT3");
        (
            await ada.FormAsync("/jobs/AT3/people", "Invite", ("email", "six@site.example"), ("role", "Reader"))
        ).EnsureSuccessStatusCode();
        string link = await site.LinkAsync(ada, "six@site.example", "/invitation/");
        var guests = Enumerable.Range(0, 6).Select(_ => new LintelClient(site.Server.Address)).ToList();
        var answers = await Task.WhenAll(
            guests.Select(g => g.FormAsync(link, "", ("name", "Six"), ("password", EmptySite.Password)))
        );
        foreach (var guest in guests)
            guest.Dispose();
        Assert.All(answers, a => Assert.InRange((int)a.StatusCode, 200, 499));
        Assert.Single(Regex.Matches(await ada.GetAsync("/jobs/AT3/people"), "data-member=\"six@site.example\""));
    }

    [Fact]
    public async Task Mails_link_to_the_site_whatever_host_a_request_names()
    {
        using var ada = await site.JobAsync("AT4");
        using var guest = await site.InviteAsync(ada, "AT4", "host@site.example", "Reader");
        using var nobody = new LintelClient(site.Server.Address);
        await nobody.TokenAsync("/forgot");
        nobody.Http.DefaultRequestHeaders.Host = "elsewhere.example";
        await nobody.PostAsync("/forgot", new FormUrlEncodedContent([new("email", "host@site.example")]));
        string link = await site.LinkAsync(ada, "host@site.example", "/forgot?");
        Assert.DoesNotContain("elsewhere.example", await ada.GetAsync("/inbox"), StringComparison.Ordinal);
        Assert.StartsWith("/forgot?", link, StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_upload_that_was_interrupted_goes_on_where_it_stopped()
    {
        using var ada = await site.JobAsync("AT5");
        string party = Regex
            .Match(await ada.GetAsync("/jobs/AT5/receive"), "<option value=\"([0-9a-f-]+)\">ARC ")
            .Groups[1]
            .Value;
        string begin =
            $"/jobs/AT5/receive?handler=Begin&party={party}&source=S&fileName=big.ifc&length={(4 << 20) + 10}";
        await ada.TokenAsync("/jobs/AT5/receive");
        string first = await (await ada.PostAsync(begin)).Content.ReadAsStringAsync();
        string id = Regex.Match(first, "[0-9a-f-]{36}").Value;
        (
            await ada.PostAsync(
                $"/jobs/AT5/receive?handler=Piece&id={id}&number=0",
                new ByteArrayContent(new byte[4 << 20])
            )
        ).EnsureSuccessStatusCode();
        string second = await (await ada.PostAsync(begin)).Content.ReadAsStringAsync();
        Assert.Contains(id, second, StringComparison.Ordinal);
        // The hash of 4 MB of zeros tells the browser that the first piece is here.
        Assert.Contains(
            Convert.ToHexStringLower(System.Security.Cryptography.SHA256.HashData(new byte[4 << 20])),
            second,
            StringComparison.Ordinal
        );
    }
}
