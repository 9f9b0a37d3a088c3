using System.Net;
using System.Net.Http.Headers;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.WebUtilities;

namespace SteadyLintel.Tests;

/// <summary>Programs sign in by OAuth 2 (RFC 6749, RFC 7636, RFC 7009): by a person's consent and as themselves.</summary>
public partial class ProgramTests(DemoServer demo) : IClassFixture<DemoServer>
{
    private const string Back = "http://localhost:5599/back";

    private static readonly string Verifier = new('v', 64);

    private static string Challenge(string verifier) =>
        WebEncoders.Base64UrlEncode(SHA256.HashData(Encoding.ASCII.GetBytes(verifier)));

    private async Task<(string Id, string Secret)> RegisterAsync(LintelClient owner, string redirect, bool secret)
    {
        string page = await (
            await owner.FormAsync(
                "/account",
                "Program",
                [
                    ("name", "Checker"),
                    ("redirect", redirect),
                    .. secret ? [("secret", "true")] : Array.Empty<(string, string)>(),
                ]
            )
        ).Content.ReadAsStringAsync();
        Assert.Contains("The program is registered.", page);
        return (ClientId().Match(page).Groups[1].Value, ClientSecret().Match(page).Groups[1].Value);
    }

    private static string Question(string client, string challenge, string redirect = Back) =>
        QueryHelpers.AddQueryString(
            "/oauth/authorize",
            new Dictionary<string, string?>
            {
                ["client_id"] = client,
                ["redirect_uri"] = redirect,
                ["response_type"] = "code",
                ["scope"] = "topics offline_access",
                ["state"] = "s 1",
                ["code_challenge"] = challenge,
                ["code_challenge_method"] = "S256",
            }
        );

    private static string LinkOf(string page, string label) =>
        WebUtility.HtmlDecode(Regex.Match(page, $"href=\"([^\"]+)\">{label}<").Groups[1].Value);

    private static async Task<string> CodeAsync(LintelClient person, string client)
    {
        string page = await person.GetAsync(Question(client, Challenge(Verifier)));
        Assert.Contains("Let Checker act for you?", page);
        var answer = QueryHelpers.ParseQuery((await person.LocationAsync(LinkOf(page, "Allow")))!.Query);
        Assert.Equal("s 1", answer["state"]);
        return answer["code"]!;
    }

    private async Task<(HttpStatusCode Status, JsonElement Answer)> TokenAsync(
        params (string Name, string Value)[] form
    )
    {
        using var http = new HttpClient { BaseAddress = demo.Server.Address };
        var answer = await http.PostAsync(
            "/oauth/token",
            new FormUrlEncodedContent(form.Select(f => KeyValuePair.Create(f.Name, f.Value)))
        );
        return (answer.StatusCode, JsonDocument.Parse(await answer.Content.ReadAsStringAsync()).RootElement);
    }

    private Task<(HttpStatusCode Status, JsonElement Answer)> ExchangeAsync(
        string client,
        string code,
        string verifier
    ) =>
        TokenAsync(
            ("grant_type", "authorization_code"),
            ("client_id", client),
            ("code", code),
            ("redirect_uri", Back),
            ("code_verifier", verifier)
        );

    private async Task<HttpResponseMessage> AskAsync(string token, string path)
    {
        using var http = new HttpClient { BaseAddress = demo.Server.Address };
        http.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", token);
        return await http.GetAsync(path);
    }

    private static string Text(JsonElement answer, string name) => answer.GetProperty(name).GetString()!;

    [Fact]
    public async Task Where_to_sign_in_is_said()
    {
        using var http = new HttpClient { BaseAddress = demo.Server.Address };
        var auth = JsonDocument.Parse(await http.GetStringAsync("/bcf/3.0/auth")).RootElement;
        Assert.EndsWith("/oauth/authorize", Text(auth, "oauth2_auth_url"));
        Assert.EndsWith("/oauth/token", Text(auth, "oauth2_token_url"));
        Assert.Equal(
            ["authorization_code_grant", "client_credentials_grant"],
            auth.GetProperty("supported_oauth2_flows").EnumerateArray().Select(f => f.GetString())
        );
    }

    [Fact]
    public async Task A_program_acts_for_a_person_who_allows_it_and_no_longer_once_that_ends()
    {
        using var owner = await demo.SignedInAsync("coordinator");
        var (client, _) = await RegisterAsync(owner, Back, false);
        using var person = await demo.SignedInAsync("reader");
        var (status, tokens) = await ExchangeAsync(client, await CodeAsync(person, client), Verifier);
        Assert.Equal(HttpStatusCode.OK, status);
        string access = Text(tokens, "access_token");
        string me = await (await AskAsync(access, "/bcf/3.0/current-user")).Content.ReadAsStringAsync();
        Assert.Contains("reader@heron.example", me);
        // Topics and nothing else of the job.
        Assert.Equal(HttpStatusCode.OK, (await AskAsync(access, "/bcf/3.0/projects")).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await AskAsync(access, "/jobs/HW")).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await AskAsync(access, "/jobs/HW/combine?handler=Scene")).StatusCode);
        var (renewed, again) = await TokenAsync(
            ("grant_type", "refresh_token"),
            ("client_id", client),
            ("refresh_token", Text(tokens, "refresh_token"))
        );
        Assert.Equal(HttpStatusCode.OK, renewed);
        string page = await person.GetAsync("/account");
        Assert.Contains("act for you in topics", page);
        await person.FormAsync("/account", "Forbid", ("id", client));
        foreach (string token in (string[])[access, Text(again, "access_token")])
            Assert.Equal(HttpStatusCode.Unauthorized, (await AskAsync(token, "/bcf/3.0/projects")).StatusCode);
        var (refused, why) = await TokenAsync(
            ("grant_type", "refresh_token"),
            ("client_id", client),
            ("refresh_token", Text(again, "refresh_token"))
        );
        Assert.Equal((HttpStatusCode.BadRequest, "invalid_grant"), (refused, Text(why, "error")));
    }

    [Fact]
    public async Task A_code_is_good_once_and_only_with_its_verifier()
    {
        using var owner = await demo.SignedInAsync("coordinator");
        var (client, _) = await RegisterAsync(owner, Back, false);
        var (wrong, error) = await ExchangeAsync(client, await CodeAsync(owner, client), new string('w', 64));
        Assert.Equal((HttpStatusCode.BadRequest, "invalid_grant"), (wrong, Text(error, "error")));
        string code = await CodeAsync(owner, client);
        var (_, tokens) = await ExchangeAsync(client, code, Verifier);
        string access = Text(tokens, "access_token");
        Assert.Equal(HttpStatusCode.OK, (await AskAsync(access, "/bcf/3.0/projects")).StatusCode);
        Assert.Equal(HttpStatusCode.BadRequest, (await ExchangeAsync(client, code, Verifier)).Status);
        // RFC 6749, 4.1.2: a code that is used twice was stolen, and so may be what it was exchanged for.
        Assert.Equal(HttpStatusCode.Unauthorized, (await AskAsync(access, "/bcf/3.0/projects")).StatusCode);
    }

    [Fact]
    public async Task Nobody_allows_what_nobody_was_asked()
    {
        using var owner = await demo.SignedInAsync("coordinator");
        var (client, _) = await RegisterAsync(owner, Back, false);
        string page = await owner.GetAsync(Question(client, Challenge(Verifier)));
        var refused = QueryHelpers.ParseQuery((await owner.LocationAsync(LinkOf(page, "Do not allow")))!.Query);
        Assert.Equal("access_denied", refused["error"]);
        string allow = LinkOf(page, "Allow");
        // The link of one person is none for another, nor for another request.
        using var other = await demo.SignedInAsync("reader");
        Assert.Null(await other.LocationAsync(allow));
        Assert.Null(await owner.LocationAsync(allow.Replace("state=s", "state=t", StringComparison.Ordinal)));
        Assert.Null(await owner.LocationAsync(Question(client, Challenge(Verifier)) + "&granted=yes"));
        using var nobody = new LintelClient(demo.Server.Address);
        Assert.Equal("/signin", (await nobody.LocationAsync(allow))!.AbsolutePath);
        // Elsewhere than where it is registered to come back to, unknown, or without PKCE: no code.
        foreach (
            string wrong in (string[])
                [
                    Question(client, Challenge(Verifier), "https://elsewhere.example/back"),
                    Question("nobody", Challenge(Verifier)),
                    Question(client, "x").Replace("code_challenge", "ignored", StringComparison.Ordinal),
                ]
        )
            Assert.Equal(HttpStatusCode.BadRequest, (await owner.Http.GetAsync(wrong)).StatusCode);
    }

    [Fact]
    public async Task A_program_with_a_secret_acts_for_its_owner_until_it_is_removed()
    {
        using var owner = await demo.SignedInAsync("services");
        var (client, secret) = await RegisterAsync(owner, "", true);
        var (status, tokens) = await TokenAsync(
            ("grant_type", "client_credentials"),
            ("client_id", client),
            ("client_secret", secret)
        );
        Assert.Equal(HttpStatusCode.OK, status);
        string access = Text(tokens, "access_token");
        Assert.Contains(
            "services@heron.example",
            await (await AskAsync(access, "/bcf/2.1/current-user")).Content.ReadAsStringAsync()
        );
        var (wrong, why) = await TokenAsync(
            ("grant_type", "client_credentials"),
            ("client_id", client),
            ("client_secret", secret + "x")
        );
        Assert.Equal((HttpStatusCode.Unauthorized, "invalid_client"), (wrong, Text(why, "error")));
        // Somebody else cannot remove it.
        using var other = await demo.SignedInAsync("reader");
        await other.FormAsync("/account", "RemoveProgram", ("id", client));
        Assert.Equal(HttpStatusCode.OK, (await AskAsync(access, "/bcf/3.0/projects")).StatusCode);
        await owner.FormAsync("/account", "RemoveProgram", ("id", client));
        Assert.Equal(HttpStatusCode.Unauthorized, (await AskAsync(access, "/bcf/3.0/projects")).StatusCode);
    }

    [Theory]
    [InlineData("", false, "needs a redirect address, or a secret")]
    [InlineData("http://elsewhere.example/back", false, "begins with https://")]
    [InlineData("javascript:alert(1)", true, "begins with https://")]
    [InlineData("https://program.example/back#x", true, "begins with https://")]
    public async Task A_redirect_address_is_checked(string redirect, bool secret, string why)
    {
        using var owner = await demo.SignedInAsync("coordinator");
        var answer = await owner.FormAsync(
            "/account",
            "Program",
            ("name", "Wrong"),
            ("redirect", redirect),
            ("secret", secret ? "true" : "false")
        );
        Assert.Contains(why, WebUtility.HtmlDecode(await answer.Content.ReadAsStringAsync()));
    }

    [GeneratedRegex("id=\"client-id\">([\\w-]+)<")]
    private static partial Regex ClientId();

    [GeneratedRegex("id=\"client-secret\">([\\w-]+)<")]
    private static partial Regex ClientSecret();
}
