using System.Net;
using System.Text.RegularExpressions;
using SteadyLintel.StandIn;

namespace SteadyLintel.Tests;

/// <summary>Sharing topics with another server, as people of a job do it: the stand-in that ships with the application.</summary>
public sealed class TopicServerPageTests : IAsyncLifetime
{
    private const string Page = "/jobs/HW/topics/servers";

    private ServerProcess _server = null!;

    public async ValueTask InitializeAsync() =>
        _server = await ServerProcess.StartAsync(
            await DemoDatabase.NewAsync(),
            demo: true,
            ("TopicServers__StandIn", "true")
        );

    public ValueTask DisposeAsync()
    {
        _server.Dispose();
        return ValueTask.CompletedTask;
    }

    private string StandIn => _server.Address.ToString().TrimEnd('/') + TopicStandIn.Path;

    private async Task<LintelClient> SignedInAsync(string who)
    {
        var client = new LintelClient(_server.Address);
        await client.SignInAsync($"{who}@heron.example");
        return client;
    }

    private static async Task<string> TextAsync(HttpResponseMessage answer) =>
        WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync());

    [Fact]
    public async Task A_coordinator_adds_a_server_signs_in_chooses_a_project_and_topics_arrive()
    {
        using var coordinator = await SignedInAsync("coordinator");
        Assert.Contains("shares its topics with no other server", await coordinator.GetAsync(Page));
        string wrong = await TextAsync(
            await coordinator.FormAsync(
                Page,
                "Add",
                ("address", StandIn),
                ("signIn", "token"),
                ("secret", "no such token")
            )
        );
        Assert.Contains("does not accept the sign-in", wrong);

        // As a person: to the other server's sign-in and back.
        await coordinator.TokenAsync(Page);
        await coordinator.FormAsync(
            Page,
            "Add",
            ("address", StandIn),
            ("name", "Ferry"),
            ("signIn", "person"),
            ("clientId", "lintel")
        );
        string list = await coordinator.GetAsync(Page);
        Assert.Contains("Nobody is signed in there yet", list);
        string id = Regex.Match(list, "name=\"id\" value=\"([0-9a-f-]{36})\"").Groups[1].Value;
        var there = (await coordinator.LocationAsync($"{Page}?handler=SignIn&id={id}"))!;
        Assert.StartsWith(StandIn + "/authorize", there.ToString());
        var back = (
            await coordinator.LocationAsync(
                there.PathAndQuery.Replace(
                    "/authorize?",
                    "/authorize/as?as=mara%40ferry.example&",
                    StringComparison.Ordinal
                )
            )
        )!;
        Assert.Equal("/topics/signed-in", back.AbsolutePath);
        // Nobody else comes back with it.
        using var services = await SignedInAsync("services");
        Assert.Equal(HttpStatusCode.BadRequest, (await services.Http.GetAsync(back.PathAndQuery)).StatusCode);
        Assert.Equal(Page, (await coordinator.LocationAsync(back.PathAndQuery))!.ToString());
        string chosen = await coordinator.GetAsync($"{Page}?choose={id}");
        Assert.Contains("Ferry linkspan and terminal", chosen);
        await coordinator.FormAsync(
            Page,
            "Choose",
            ("id", id),
            ("project", "ferry-2026"),
            ("frame", "job"),
            ("own", "true")
        );
        await UntilAsync(coordinator, "data-state=\"Same\"");
        string topics = await coordinator.GetAsync("/jobs/HW/resolve?as=list");
        Assert.Contains("Which level is the linkspan hinge?", topics);

        // A contributor looks and exchanges, and neither adds nor removes; a recipient sees nothing of it.
        Assert.Contains("Ferry linkspan", await services.GetAsync(Page));
        Assert.Equal(HttpStatusCode.OK, (await services.FormAsync(Page, "Now", ("id", id))).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await services.FormAsync(Page, "Remove", ("id", id))).StatusCode);
        using var recipient = await SignedInAsync("recipient");
        Assert.NotEqual(HttpStatusCode.OK, (await recipient.Http.GetAsync(Page)).StatusCode);
        using var stranger = await SignedInAsync("stranger");
        Assert.Equal(HttpStatusCode.NotFound, (await stranger.Http.GetAsync(Page)).StatusCode);
        await coordinator.FormAsync(Page, "Remove", ("id", id));
        Assert.Contains("shares its topics with no other server", await coordinator.GetAsync(Page));
        Assert.Contains("linkspan hinge", await coordinator.GetAsync("/jobs/HW/resolve?as=list"));
    }

    [Fact]
    public async Task Filters_are_stored_and_lists_grouped_and_mails_wanted_otherwise()
    {
        using var coordinator = await SignedInAsync("coordinator");
        await coordinator.FormAsync("/jobs/HW/ask", "", ("Form.Title", "Which door?"), ("Form.Type", "Question"));
        const string list = "/jobs/HW/resolve?as=list&group=type&type=Question";
        Assert.Contains("<th colspan=\"11\" scope=\"rowgroup\">Question", await coordinator.GetAsync(list));
        await coordinator.FormAsync(list, "Store", ("name", "Questions"));
        string page = await coordinator.GetAsync(list);
        Assert.Contains("aria-current=\"page\">Questions</a>", page);
        using var reader = await SignedInAsync("reader");
        Assert.Contains(">Questions</a>", await reader.GetAsync("/jobs/HW/resolve"));
        Assert.Equal(HttpStatusCode.Forbidden, (await reader.FormAsync(list, "Store", ("name", "Mine"))).StatusCode);
        await reader.FormAsync("/jobs/HW/resolve", "Mails", ("when", "Daily"));
        Assert.Contains("value=\"Daily\" selected", await reader.GetAsync("/jobs/HW/resolve"));
        await coordinator.FormAsync(list, "Remove", ("name", "Questions"));
        Assert.DoesNotContain(">Questions</a>", await reader.GetAsync("/jobs/HW/resolve"));
    }

    private static async Task UntilAsync(LintelClient client, string what)
    {
        string list = "";
        for (int i = 0; i < 150; i++)
        {
            list = await client.GetAsync(Page + "?handler=List");
            if (list.Contains(what, StringComparison.Ordinal))
                return;
            await Task.Delay(200);
        }

        Assert.Fail(list);
    }
}
