using System.Net;
using System.Text.RegularExpressions;

namespace SteadyLintel.Tests;

/// <summary>Signing in at the company's provider, the state of the site, reports of browsers.</summary>
[Collection(nameof(EmptySite))]
public class SiteTests(EmptySite site)
{
    [Fact]
    public async Task The_company_signs_in_whom_it_vouches_for_and_who_has_an_account()
    {
        var (arrived, _) = await CompanyAsync("ada@site.example", vouched: true, "/account");
        Assert.Equal("/account", arrived.RequestMessage!.RequestUri!.AbsolutePath);
        // From now on the account is known by the company's own name for the person.
        var (again, _) = await CompanyAsync("ada@site.example", vouched: false, "/");
        Assert.Equal("/", again.RequestMessage!.RequestUri!.AbsolutePath);
        var (unknown, page) = await CompanyAsync("nobody@site.example", vouched: true, "/");
        Assert.Equal(HttpStatusCode.Forbidden, unknown.StatusCode);
        Assert.Contains("Accounts come by invitation", page, StringComparison.Ordinal);
        using var ada = await site.JobAsync("CO1");
        using var guest = await site.InviteAsync(ada, "CO1", "guest@site.example", "Reader");
        var (claimed, why) = await CompanyAsync("guest@site.example", vouched: false, "/");
        Assert.Equal(HttpStatusCode.Forbidden, claimed.StatusCode);
        Assert.Contains("does not vouch", why, StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_answer_that_nobody_asked_for_signs_nobody_in()
    {
        using var client = new LintelClient(site.Server.Address);
        var answer = await client.Http.GetAsync("/signin/company/callback?code=x&state=y");
        Assert.Equal("/signin/company/done", answer.RequestMessage!.RequestUri!.AbsolutePath);
        Assert.Equal(HttpStatusCode.Forbidden, answer.StatusCode);
        // Nor does it lead to another site.
        Assert.StartsWith(
            "/signin",
            (await client.Http.GetAsync("/signin/company/done?returnUrl=//elsewhere.example"))
                .RequestMessage!
                .RequestUri!
                .AbsolutePath
        );
    }

    [Fact]
    public async Task Administrators_see_the_state_of_the_site_and_nobody_else_does()
    {
        using var ada = await site.JobAsync("ST1");
        string page = await ada.GetAsync("/status");
        Assert.Contains("Workers", page, StringComparison.Ordinal);
        Assert.Matches(@"\(1 at a time\)", page);
        using var guest = await site.InviteAsync(ada, "ST1", "looker@site.example", "Coordinator");
        Assert.Equal(HttpStatusCode.NotFound, (await guest.Http.GetAsync("/status")).StatusCode);
        using var stranger = new LintelClient(site.Server.Address);
        Assert.Equal("/signin", (await stranger.Http.GetAsync("/status")).RequestMessage!.RequestUri!.AbsolutePath);
    }

    [Fact]
    public async Task What_a_policy_forbade_is_in_the_log_in_one_line()
    {
        using var client = new LintelClient(site.Server.Address);
        var policy = (await client.Http.GetAsync("/signin")).Headers.GetValues("Content-Security-Policy").Single();
        Assert.Contains("report-uri /policy-report", policy, StringComparison.Ordinal);
        var answer = await client.Http.PostAsync(
            "/policy-report",
            new StringContent("{\"csp-report\":\n{\"blocked-uri\":\"x-marks\"}}" + new string('x', 9000))
        );
        Assert.Equal(HttpStatusCode.NoContent, answer.StatusCode);
        for (int i = 0; i < 50 && !site.Server.LogText.Contains("x-marks", StringComparison.Ordinal); i++)
            await Task.Delay(100);
        string line = site.Server.LogText.Split('\n').Single(l => l.Contains("x-marks", StringComparison.Ordinal));
        Assert.InRange(line.Length, 100, 5000);
        // A request's number stands in each line of it.
        Assert.Contains("RequestId", line, StringComparison.Ordinal);
    }

    private async Task<(HttpResponseMessage Answer, string Page)> CompanyAsync(string email, bool vouched, string to)
    {
        using var client = new LintelClient(site.Server.Address);
        var asked = await client.Http.GetAsync("/signin/company?returnUrl=" + Uri.EscapeDataString(to));
        Assert.Equal("/stand-in/authorize", asked.RequestMessage!.RequestUri!.AbsolutePath);
        var fields = Regex
            .Matches(await asked.Content.ReadAsStringAsync(), "type=hidden name=\"([^\"]+)\" value=\"([^\"]*)\"")
            .Select(m => KeyValuePair.Create(m.Groups[1].Value, WebUtility.HtmlDecode(m.Groups[2].Value)))
            .Append(KeyValuePair.Create("email", email))
            .Append(KeyValuePair.Create("verified", vouched ? "true" : ""));
        var answer = await client.Http.PostAsync("/stand-in/authorize", new FormUrlEncodedContent(fields));
        return (answer, WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()));
    }
}
