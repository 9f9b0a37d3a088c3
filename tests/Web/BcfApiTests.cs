using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace SteadyLintel.Tests;

/// <summary>BCF API 3.0 and 2.1 route by route (from memory of the standard), with wrong input, and by those who may not.</summary>
public partial class BcfApiTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private static readonly string[] Versions = ["3.0", "2.1"];

    private static readonly System.Collections.Concurrent.ConcurrentDictionary<string, string> Secrets = [];

    // A member's program, with a token of its own: made once, since signing in takes a second.
    private async Task<HttpClient> ProgramAsync(string who, string scope = "topics")
    {
        string key = $"{demo.Server.Address} {who} {scope}";
        if (!Secrets.TryGetValue(key, out string? secret))
        {
            using var person = await demo.SignedInAsync(who);
            string page = await (
                await person.FormAsync("/account", "Token", ("name", "program"), ("scope", scope), ("days", "1"))
            ).Content.ReadAsStringAsync();
            Secrets[key] = secret = Secret().Match(page).Groups[1].Value;
        }

        var client = new HttpClient { BaseAddress = demo.Server.Address };
        client.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", secret);
        return client;
    }

    private static async Task<JsonElement> JsonAsync(
        HttpResponseMessage answer,
        HttpStatusCode wanted = HttpStatusCode.OK
    )
    {
        string text = await answer.Content.ReadAsStringAsync();
        Assert.True(
            answer.StatusCode == wanted,
            $"{answer.RequestMessage!.Method} {answer.RequestMessage.RequestUri}: {(int)answer.StatusCode} {text}"
        );
        return JsonDocument.Parse(text).RootElement;
    }

    private static async Task<JsonElement> GetAsync(HttpClient client, string path) =>
        await JsonAsync(await client.GetAsync(path));

    private static StringContent Body(string json) => new(json, Encoding.UTF8, "application/json");

    private static async Task<JsonElement> PostAsync(HttpClient client, string path, string json) =>
        await JsonAsync(await client.PostAsync(path, Body(json)), HttpStatusCode.Created);

    private static async Task<string> ProjectAsync(HttpClient client) =>
        (await GetAsync(client, "/bcf/3.0/projects"))[0].GetProperty("project_id").GetString()!;

    [Fact]
    public async Task Anybody_learns_which_versions_there_are_and_how_to_sign_in()
    {
        using var client = new HttpClient { BaseAddress = demo.Server.Address };
        foreach (string path in (string[])["/foundation/versions", "/bcf/versions"])
        {
            var versions = (await GetAsync(client, path)).GetProperty("versions");
            Assert.Equal(
                ["3.0", "2.1", "1.0"],
                versions.EnumerateArray().Select(v => v.GetProperty("version_id").GetString())
            );
        }

        foreach (string v in Versions)
        {
            Assert.False((await GetAsync(client, $"/bcf/{v}/auth")).GetProperty("http_basic_supported").GetBoolean());
            foreach (string path in (string[])["projects", "current-user", $"projects/{Guid.NewGuid()}/topics"])
                Assert.Equal(HttpStatusCode.Unauthorized, (await client.GetAsync($"/bcf/{v}/{path}")).StatusCode);
        }
    }

    [Theory]
    [InlineData("3.0")]
    [InlineData("2.1")]
    public async Task A_topic_with_comments_and_views_is_made_read_and_changed(string version)
    {
        using var client = await ProgramAsync("coordinator");
        Assert.Equal(
            "coordinator@heron.example",
            (await GetAsync(client, $"/bcf/{version}/current-user")).GetProperty("id").GetString()
        );
        string project = $"/bcf/{version}/projects/{await ProjectAsync(client)}";
        Assert.Equal("HW Heron Wharf", (await GetAsync(client, project)).GetProperty("name").GetString());
        var words = await GetAsync(client, $"{project}/extensions");
        Assert.Contains("Question", words.GetProperty("topic_type").EnumerateArray().Select(w => w.GetString()));
        Assert.Contains("STR", words.GetProperty("users").EnumerateArray().Select(w => w.GetString()));
        string guid = Guid.NewGuid().ToString();
        var made = await PostAsync(
            client,
            $"{project}/topics",
            $$"""
            {"guid":"{{guid}}","title":"From a program {{version}}","topic_type":"Question","priority":"High","labels":["levels","x"],
             "assigned_to":"STR","description":"Two\nlines","due_date":"2026-12-24T12:00:00Z","index":4,"reference_links":["https://example.com/a"]}
            """
        );
        Assert.Equal(guid, made.GetProperty("guid").GetString());
        Assert.Equal(4, made.GetProperty("index").GetInt32());
        Assert.Equal("Open", made.GetProperty("topic_status").GetString());
        Assert.Contains(
            "update",
            made.GetProperty("authorization").GetProperty("topic_actions").EnumerateArray().Select(a => a.GetString())
        );
        string topic = $"{project}/topics/{guid}";
        await ChangedAsync(client, topic);
        await CommentedAsync(client, topic);
        await SeenAsync(client, topic);
        await RelatedAsync(client, topic);
        var events = await GetAsync(client, $"{topic}/events");
        Assert.Contains("topic_created", Actions(events));
        Assert.Contains("status_updated", Actions(events));
        Assert.Contains("comment_created", Actions(await GetAsync(client, $"{topic}/comments/events")));
        Assert.Contains("topic_created", Actions(await GetAsync(client, $"{project}/topics/events")));
        Assert.NotEmpty(Actions(await GetAsync(client, $"{project}/topics/comments/events?$top=1")));
    }

    private static IEnumerable<string?> Actions(JsonElement events) =>
        events
            .EnumerateArray()
            .SelectMany(e => e.GetProperty("actions").EnumerateArray())
            .Select(a => a.GetProperty("type").GetString());

    private static async Task ChangedAsync(HttpClient client, string topic)
    {
        var first = await client.GetAsync(topic);
        string seen = first.Headers.ETag!.Tag;
        var put = new HttpRequestMessage(HttpMethod.Put, topic)
        {
            Content = Body(
                """{"title":"Changed","topic_status":"Answered","topic_type":"Remark","assigned_to":"ARC"}"""
            ),
        };
        put.Headers.IfMatch.Add(new EntityTagHeaderValue(seen));
        var changed = await JsonAsync(await client.SendAsync(put));
        Assert.Equal(
            ("Changed", "Answered", "ARC"),
            (
                changed.GetProperty("title").GetString(),
                changed.GetProperty("topic_status").GetString(),
                changed.GetProperty("assigned_to").GetString()
            )
        );
        // What was not sent is removed.
        Assert.False(changed.TryGetProperty("due_date", out _));
        var late = new HttpRequestMessage(HttpMethod.Put, topic) { Content = Body("""{"title":"Too late"}""") };
        late.Headers.IfMatch.Add(new EntityTagHeaderValue(seen));
        Assert.Equal(HttpStatusCode.PreconditionFailed, (await client.SendAsync(late)).StatusCode);
        Assert.Equal("Changed", (await GetAsync(client, topic)).GetProperty("title").GetString());
    }

    private static async Task CommentedAsync(HttpClient client, string topic)
    {
        var comment = await PostAsync(client, $"{topic}/comments", """{"comment":"First"}""");
        string one = $"{topic}/comments/{comment.GetProperty("guid").GetString()}";
        Assert.Equal("coordinator@heron.example", comment.GetProperty("author").GetString());
        Assert.Contains(
            "update",
            comment
                .GetProperty("authorization")
                .GetProperty("comment_actions")
                .EnumerateArray()
                .Select(a => a.GetString())
        );
        var edited = await JsonAsync(await client.PutAsync(one, Body("""{"comment":"Edited"}""")));
        Assert.Equal("Edited", edited.GetProperty("comment").GetString());
        Assert.Equal("Edited", (await GetAsync(client, one)).GetProperty("comment").GetString());
        await PostAsync(client, $"{topic}/comments", """{"comment":"Second"}""");
        Assert.Single((await GetAsync(client, $"{topic}/comments?$skip=1")).EnumerateArray());
        Assert.Equal(HttpStatusCode.NoContent, (await client.DeleteAsync(one)).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync(one)).StatusCode);
    }

    private static async Task SeenAsync(HttpClient client, string topic)
    {
        // The smallest PNG: one point.
        const string Png =
            "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==";
        var view = await PostAsync(
            client,
            $"{topic}/viewpoints",
            """
            {"index":1,"perspective_camera":{"camera_view_point":{"x":1.5,"y":2,"z":3},"camera_direction":{"x":0,"y":1,"z":0},
             "camera_up_vector":{"x":0,"y":0,"z":1},"field_of_view":47.5,"aspect_ratio":1.6},
             "lines":[{"start_point":{"x":0,"y":0,"z":0},"end_point":{"x":1,"y":1,"z":1}}],
             "clipping_planes":[{"location":{"x":0,"y":0,"z":5},"direction":{"x":0,"y":0,"z":1}}],
             "bitmaps":[{"bitmap_type":"png","bitmap_data":"@PNG","location":{"x":1,"y":1,"z":1},"normal":{"x":0,"y":0,"z":1},"up":{"x":0,"y":1,"z":0},"height":2}],
             "snapshot":{"snapshot_type":"png","snapshot_data":"@PNG"},
             "components":{"selection":[{"ifc_guid":"3cUkl32yn9qRSPvBJVyWYp"}],
              "coloring":[{"color":"ff00ff00","components":[{"ifc_guid":"1xS3BCk291UvhgP2dvNMKI"}]}],
              "visibility":{"default_visibility":true,"exceptions":[{"ifc_guid":"2O2Fr$t4X7Zf8NOew3FNr2"}],"view_setup_hints":{"spaces_visible":true}}}}
            """.Replace("@PNG", Png, StringComparison.Ordinal)
        );
        string one = $"{topic}/viewpoints/{view.GetProperty("guid").GetString()}";
        var back = await GetAsync(client, one);
        Assert.Equal(47.5, back.GetProperty("perspective_camera").GetProperty("field_of_view").GetDouble());
        Assert.Equal(
            1.5,
            back.GetProperty("perspective_camera").GetProperty("camera_view_point").GetProperty("x").GetDouble()
        );
        Assert.False(back.TryGetProperty("components", out _));
        Assert.Single((await GetAsync(client, $"{topic}/viewpoints")).EnumerateArray());
        byte[] picture = await client.GetByteArrayAsync($"{one}/snapshot");
        Assert.Equal(Convert.FromBase64String(Png), picture);
        string bitmap = back.GetProperty("bitmaps")[0].GetProperty("guid").GetString()!;
        Assert.Equal(picture, await client.GetByteArrayAsync($"{one}/bitmaps/{bitmap}"));
        Assert.Equal(
            "3cUkl32yn9qRSPvBJVyWYp",
            (await GetAsync(client, $"{one}/selection")).GetProperty("selection")[0].GetProperty("ifc_guid").GetString()
        );
        Assert.Equal(
            "ff00ff00",
            (await GetAsync(client, $"{one}/coloring")).GetProperty("coloring")[0].GetProperty("color").GetString()
        );
        var visibility = (await GetAsync(client, $"{one}/visibility")).GetProperty("visibility");
        Assert.True(visibility.GetProperty("default_visibility").GetBoolean());
        Assert.True(visibility.GetProperty("view_setup_hints").GetProperty("spaces_visible").GetBoolean());
        await PostAsync(
            client,
            $"{topic}/comments",
            $$"""{"comment":"See","viewpoint_guid":"{{view.GetProperty("guid").GetString()}}"}"""
        );
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (
                await client.PostAsync(
                    $"{topic}/comments",
                    Body($$"""{"comment":"x","viewpoint_guid":"{{Guid.NewGuid()}}"}""")
                )
            ).StatusCode
        );
    }

    private static async Task RelatedAsync(HttpClient client, string topic)
    {
        string other = Guid.NewGuid().ToString();
        await JsonAsync(
            await client.PutAsync($"{topic}/related_topics", Body($$"""[{"related_topic_guid":"{{other}}"}]"""))
        );
        Assert.Equal(
            other,
            (await GetAsync(client, $"{topic}/related_topics"))[0].GetProperty("related_topic_guid").GetString()
        );
        await JsonAsync(
            await client.PutAsync(
                $"{topic}/files",
                Body("""[{"file_name":"HW-ARC.ifc","reference":"https://example.com/m"}]""")
            )
        );
        Assert.Equal("HW-ARC.ifc", (await GetAsync(client, $"{topic}/files"))[0].GetProperty("file_name").GetString());
        await PostAsync(
            client,
            $"{topic}/document_references",
            """{"url":"https://example.com/doc","description":"Fire concept"}"""
        );
        Assert.Equal(
            "https://example.com/doc",
            (await GetAsync(client, $"{topic}/document_references"))[0].GetProperty("url").GetString()
        );
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync($"{topic}/snippet")).StatusCode);
    }

    // OData 4.01, URL conventions, 5.1.1, and the examples of BCF API.
    [Theory]
    [InlineData("title eq 'Odata A'", 1)]
    [InlineData("topic_type eq 'Question' and (title eq 'Odata A' or title eq 'Odata B')", 2)]
    [InlineData("contains(title, 'Odata') and not title eq 'Odata A'", 2)]
    [InlineData("contains(labels, 'levels') and contains(title, 'Odata')", 1)]
    [InlineData("contains(title, 'Odata') and modified_date gt 2020-01-01T00:00:00Z", 3)]
    [InlineData("contains(title, 'Odata') and creation_date lt datetime'2020-01-01T00:00:00+00:00'", 0)]
    [InlineData("contains(title, 'Odata') and due_date eq null", 3)]
    [InlineData("title eq 'O''Neill'", 0)]
    public async Task Topics_are_filtered(string filter, int count)
    {
        using var client = await ProgramAsync("coordinator");
        string project = $"/bcf/3.0/projects/{await ProjectAsync(client)}";
        if ((await GetAsync(client, $"{project}/topics?$filter=title eq 'Odata A'")).GetArrayLength() == 0)
        {
            await PostAsync(
                client,
                $"{project}/topics",
                """{"title":"Odata A","topic_type":"Question","labels":["levels"]}"""
            );
            await PostAsync(client, $"{project}/topics", """{"title":"Odata B","topic_type":"Question"}""");
            await PostAsync(client, $"{project}/topics", """{"title":"Odata C","topic_type":"Remark"}""");
        }

        Assert.Equal(
            count,
            (await GetAsync(client, $"{project}/topics?$filter={Uri.EscapeDataString(filter)}")).GetArrayLength()
        );
        var ordered = await GetAsync(
            client,
            $"{project}/topics?$filter=contains(title,'Odata')&$orderby=title desc&$top=2&$skip=1"
        );
        Assert.Equal(["Odata B", "Odata A"], ordered.EnumerateArray().Select(t => t.GetProperty("title").GetString()));
    }

    [Theory]
    [InlineData("GET", "topics?$filter=nonsense", null, 400)]
    [InlineData("GET", "topics?$filter=title eq 'x", null, 400)]
    [InlineData("GET", "topics?$filter=password eq 'x'", null, 400)]
    [InlineData("GET", "topics?$orderby=title sideways", null, 400)]
    [InlineData("GET", "topics?$top=-1", null, 400)]
    [InlineData("POST", "topics", "{", 400)]
    [InlineData("POST", "topics", "null", 400)]
    [InlineData("POST", "topics", """{"topic_type":"Question"}""", 400)]
    [InlineData("POST", "topics", """{"title":"x","topic_type":"Unheard of"}""", 400)]
    [InlineData("POST", "topics", """{"title":"x","guid":"not one"}""", 400)]
    [InlineData("POST", "topics", """{"title":["x"]}""", 400)]
    [InlineData("GET", "topics/00000000-0000-0000-0000-000000000001", null, 404)]
    [InlineData("POST", "topics", """{"title":"half","topic_status":"Unheard of"}""", 400)]
    [InlineData("POST", "topics", """{"title":"half","due_date":"some day"}""", 400)]
    [InlineData("GET", "topics/not-a-guid", null, 404)]
    [InlineData("GET", "nowhere", null, 404)]
    public async Task Wrong_requests_get_a_sentence(string method, string path, string? body, int status)
    {
        using var client = await ProgramAsync("coordinator");
        var request = new HttpRequestMessage(
            new HttpMethod(method),
            $"/bcf/3.0/projects/{await ProjectAsync(client)}/{path}"
        )
        {
            Content = body is null ? null : Body(body),
        };
        var answer = await client.SendAsync(request);
        Assert.Equal(status, (int)answer.StatusCode);
        Assert.NotEmpty((await JsonAsync(answer, answer.StatusCode)).GetProperty("message").GetString()!);
        // What is refused leaves nothing half made.
        string half = $"/bcf/3.0/projects/{await ProjectAsync(client)}/topics?$filter=title eq 'half'";
        Assert.Equal(0, (await GetAsync(client, half)).GetArrayLength());
    }

    [Fact]
    public async Task Who_is_not_in_the_job_finds_nothing_readers_write_nothing_and_recipients_see_what_was_handed_to_them()
    {
        using var coordinator = await ProgramAsync("coordinator");
        string id = await ProjectAsync(coordinator),
            project = $"/bcf/3.0/projects/{id}";
        string forStr =
                (await PostAsync(coordinator, $"{project}/topics", """{"title":"For STR","assigned_to":"STR"}"""))
                    .GetProperty("guid")
                    .GetString()!,
            forArc =
                (await PostAsync(coordinator, $"{project}/topics", """{"title":"For ARC","assigned_to":"ARC"}"""))
                    .GetProperty("guid")
                    .GetString()!;
        using var stranger = await ProgramAsync("stranger");
        Assert.Equal(0, (await GetAsync(stranger, "/bcf/3.0/projects")).GetArrayLength());
        foreach (
            string path in (string[])
                [
                    "",
                    "/extensions",
                    "/topics",
                    $"/topics/{forStr}",
                    $"/topics/{forStr}/comments",
                    $"/topics/{forStr}/viewpoints",
                    "/topics/events",
                ]
        )
            Assert.Equal(HttpStatusCode.NotFound, (await stranger.GetAsync(project + path)).StatusCode);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await stranger.PostAsync($"{project}/topics", Body("""{"title":"x"}"""))).StatusCode
        );
        using var reader = await ProgramAsync("reader");
        Assert.Equal(
            "For ARC",
            (await GetAsync(reader, $"{project}/topics/{forArc}")).GetProperty("title").GetString()
        );
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await reader.PostAsync($"{project}/topics", Body("""{"title":"x"}"""))).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await reader.PostAsync($"{project}/topics/{forArc}/comments", Body("""{"comment":"x"}"""))).StatusCode
        );
        using var recipient = await ProgramAsync("recipient");
        Assert.Equal(
            ["For STR"],
            (await GetAsync(recipient, $"{project}/topics?$filter=contains(title,'For ')"))
                .EnumerateArray()
                .Select(t => t.GetProperty("title").GetString())
        );
        Assert.Equal(HttpStatusCode.NotFound, (await recipient.GetAsync($"{project}/topics/{forArc}")).StatusCode);
        await PostAsync(recipient, $"{project}/topics/{forStr}/comments", """{"comment":"Seen"}""");
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await recipient.PutAsync($"{project}/topics/{forStr}", Body("""{"title":"Mine"}"""))).StatusCode
        );
        using var readOnly = await ProgramAsync("coordinator", "read");
        await GetAsync(readOnly, $"{project}/topics");
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (await readOnly.PostAsync($"{project}/topics", Body("""{"title":"x"}"""))).StatusCode
        );
    }

    // A page of somebody else could send a form with the browser's cookie; a program sends a token.
    [Fact]
    public async Task A_browser_that_is_signed_in_changes_nothing_through_the_API()
    {
        using var person = await demo.SignedInAsync("coordinator");
        string project =
            $"/bcf/3.0/projects/{JsonDocument.Parse(await person.GetAsync("/bcf/3.0/projects")).RootElement[0].GetProperty("project_id").GetString()}";
        Assert.Equal(
            HttpStatusCode.Unauthorized,
            (await person.Http.PostAsync($"{project}/topics", Body("""{"title":"x"}"""))).StatusCode
        );
    }

    [Fact]
    public async Task Broken_bodies_never_end_in_an_error_of_the_server()
    {
        using var client = await ProgramAsync("coordinator");
        string project = $"/bcf/3.0/projects/{await ProjectAsync(client)}";
        const string Whole =
            """{"title":"Fuzz","topic_type":"Question","labels":["a","b"],"index":3,"due_date":"2026-12-24T12:00:00Z","bim_snippet":{"snippet_type":"x","is_external":true,"reference":"r"},"perspective_camera":{"camera_view_point":{"x":1,"y":2,"z":3},"camera_direction":{"x":0,"y":1,"z":0},"camera_up_vector":{"x":0,"y":0,"z":1},"field_of_view":60},"snapshot":{"snapshot_type":"png","snapshot_data":"AAAA"},"comment":"c"}""";
        var random = new Random(11);
        string guid = (await PostAsync(client, $"{project}/topics", """{"title":"Fuzz"}"""))
            .GetProperty("guid")
            .GetString()!;
        string[] paths =
        [
            "/topics",
            $"/topics/{guid}/comments",
            $"/topics/{guid}/viewpoints",
            $"/topics/{guid}/document_references",
        ];
        for (int round = 0; round < 200; round++)
        {
            var text = new StringBuilder(Whole);
            for (int n = random.Next(1, 4); n > 0; n--)
            {
                int at = random.Next(text.Length);
                if (random.Next(3) == 0)
                    text.Remove(at, Math.Min(text.Length - at, random.Next(1, 30)));
                else
                    text[at] = (char)random.Next(1, 0x250);
            }

            var answer = await client.PostAsync(project + paths[round % paths.Length], Body(text.ToString()));
            Assert.True(
                (int)answer.StatusCode < 500,
                $"{paths[round % paths.Length]}: {text} gives {(int)answer.StatusCode}"
            );
        }
    }

    // What a body lacks, or has empty.
    [Theory]
    [InlineData(
        "viewpoints",
        """{"perspective_camera":{"camera_view_point":{"x":1,"y":2,"z":3},"field_of_view":60}}"""
    )]
    [InlineData("viewpoints", """{"lines":[null]}""")]
    [InlineData("viewpoints", """{"lines":[{"start_point":{"x":1,"y":1,"z":1}}]}""")]
    [InlineData("viewpoints", """{"clipping_planes":[{}]}""")]
    [InlineData("viewpoints", """{"bitmaps":[{"bitmap_type":"png"}]}""")]
    [InlineData("viewpoints", """{"components":{"selection":[null],"coloring":[{"color":"ff0000"}]}}""")]
    [InlineData("viewpoints", """{"components":{"coloring":[{"color":"ff0000","components":[null]}]}}""")]
    [InlineData("viewpoints", """{"snapshot":{"snapshot_type":"png","snapshot_data":"AAAA"}}""")]
    [InlineData("document_references", "{}")]
    [InlineData("comments", "{}")]
    public async Task What_a_body_lacks_gets_a_sentence(string what, string body)
    {
        using var client = await ProgramAsync("coordinator");
        string project = $"/bcf/3.0/projects/{await ProjectAsync(client)}";
        string guid = (await PostAsync(client, $"{project}/topics", """{"title":"Lacks","labels":[null,"a"]}"""))
            .GetProperty("guid")
            .GetString()!;
        var answer = await client.PostAsync($"{project}/topics/{guid}/{what}", Body(body));
        Assert.NotEmpty((await JsonAsync(answer, HttpStatusCode.BadRequest)).GetProperty("message").GetString()!);
    }

    // JSON can have what no XML file can: a topic is exported whatever a program wrote.
    [Fact]
    public async Task Characters_that_no_topic_file_has_are_left_out()
    {
        using var client = await ProgramAsync("coordinator");
        string project = $"/bcf/3.0/projects/{await ProjectAsync(client)}";
        var topic = await PostAsync(
            client,
            $"{project}/topics",
            """{"title":"A\u0001B\uFFFE","reference_links":["x\u0000y"],"description":"Stair \uD83E\uDE9C"}"""
        );
        Assert.Equal("AB", topic.GetProperty("title").GetString());
        Assert.Equal("xy", topic.GetProperty("reference_links")[0].GetString());
        Assert.Equal("Stair \U0001FA9C", topic.GetProperty("description").GetString());
        using var coordinator = await demo.SignedInAsync("coordinator");
        Assert.Equal(
            HttpStatusCode.OK,
            (await coordinator.Http.GetAsync("/jobs/HW/resolve?handler=File&state=all")).StatusCode
        );
    }

    [Fact]
    public async Task Nothing_is_removed_by_a_program_and_a_comment_has_its_own_events()
    {
        using var client = await ProgramAsync("coordinator");
        string project = $"/bcf/3.0/projects/{await ProjectAsync(client)}";
        string topic = (await PostAsync(client, $"{project}/topics", """{"title":"Stays"}"""))
            .GetProperty("guid")
            .GetString()!;
        var comments = new List<string>();
        foreach (string text in (string[])["first", "second"])
            comments.Add(
                (await PostAsync(client, $"{project}/topics/{topic}/comments", $$"""{"comment":"{{text}}"}"""))
                    .GetProperty("guid")
                    .GetString()!
            );
        var events = await GetAsync(client, $"{project}/topics/{topic}/comments/{comments[1]}/events");
        Assert.Equal(comments[1], Assert.Single(events.EnumerateArray()).GetProperty("comment_guid").GetString());
        foreach (
            string path in (string[])
                [
                    $"{project}/topics/{topic}",
                    $"{project}/topics/{topic}/viewpoints/{Guid.NewGuid()}",
                    $"{project}/topics/{topic}/document_references/{Guid.NewGuid()}",
                ]
        )
            Assert.Equal(HttpStatusCode.Forbidden, (await client.DeleteAsync(path)).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await client.PutAsync(project, Body("""{"name":"x"}"""))).StatusCode);
        using var stranger = await ProgramAsync("stranger");
        Assert.Equal(HttpStatusCode.NotFound, (await stranger.DeleteAsync($"{project}/topics/{topic}")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync($"{project}/topics/{topic}")).StatusCode);
    }

    [Fact]
    public async Task Documents_snippets_and_models_of_a_project()
    {
        using var client = await ProgramAsync("coordinator");
        string project = $"/bcf/3.0/projects/{await ProjectAsync(client)}";
        var models = await GetAsync(client, project + "/files_information");
        Assert.Contains(models.EnumerateArray(), m =>
            m.GetProperty("file").GetProperty("file_name").GetString()!.EndsWith(".ifc", StringComparison.Ordinal)
        );
        byte[] plan = Encoding.ASCII.GetBytes("a plan");
        var sent = new ByteArrayContent(plan);
        sent.Headers.ContentDisposition = new ContentDispositionHeaderValue("attachment") { FileName = "plan 1.pdf" };
        var kept = await JsonAsync(await client.PostAsync(project + "/documents", sent), HttpStatusCode.Created);
        string document = kept.GetProperty("guid").GetString()!;
        Assert.Equal("plan 1.pdf", kept.GetProperty("filename").GetString());
        Assert.Contains(document, (await GetAsync(client, project + "/documents")).GetRawText());
        Assert.Equal(plan, await client.GetByteArrayAsync($"{project}/documents/{document}"));
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await client.PostAsync(project + "/documents", new ByteArrayContent(plan))).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await client.GetAsync($"{project}/documents/{Guid.NewGuid()}")).StatusCode
        );

        string topic = (
            await PostAsync(
                client,
                $"{project}/topics",
                """{"title":"Documents","bim_snippet":{"snippet_type":"note","is_external":false}}"""
            )
        )
            .GetProperty("guid")
            .GetString()!;
        string references = $"{project}/topics/{topic}/document_references";
        string reference = (await PostAsync(client, references, $$"""{"document_guid":"{{document}}"}"""))
            .GetProperty("guid")
            .GetString()!;
        var changed = await JsonAsync(
            await client.PutAsync(
                $"{references}/{reference}",
                Body($$"""{"document_guid":"{{document}}","description":"the plan"}""")
            )
        );
        Assert.Equal("the plan", changed.GetProperty("description").GetString());
        Assert.Equal(
            HttpStatusCode.NotFound,
            (
                await client.PutAsync($"{references}/{Guid.NewGuid()}", Body("""{"url":"https://a.example"}"""))
            ).StatusCode
        );
        Assert.Equal(
            HttpStatusCode.NoContent,
            (await client.PutAsync($"{project}/topics/{topic}/snippet", new ByteArrayContent(plan))).StatusCode
        );
        Assert.Equal(plan, await client.GetByteArrayAsync($"{project}/topics/{topic}/snippet"));

        // A recipient has the documents of those topics alone that were handed to its party.
        using var recipient = await ProgramAsync("recipient");
        Assert.Equal(HttpStatusCode.NotFound, (await recipient.GetAsync($"{project}/documents/{document}")).StatusCode);
        Assert.DoesNotContain(document, (await GetAsync(recipient, project + "/documents")).GetRawText());
        Assert.Empty((await GetAsync(recipient, project + "/files_information")).EnumerateArray());
        using var reader = await ProgramAsync("reader");
        Assert.Equal(HttpStatusCode.Forbidden, (await reader.PostAsync(project + "/documents", sent)).StatusCode);
    }

    [GeneratedRegex("id=\"secret\">(lintel_[\\w-]+)<")]
    private static partial Regex Secret();
}
