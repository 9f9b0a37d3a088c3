using System.Net;
using System.Text.RegularExpressions;

namespace SteadyLintel.Tests;

/// <summary>A person at the web application, without a browser.</summary>
public sealed partial class LintelClient(Uri address) : IDisposable
{
    private const int Piece = 4 << 20;
    private readonly CookieContainer _cookies = new();
    private HttpClient? _http;
    private string _token = "";

    /// <summary>The connection; cookies are kept.</summary>
    public HttpClient Http =>
        _http ??= new HttpClient(
            new HttpClientHandler { CookieContainer = _cookies, AutomaticDecompression = DecompressionMethods.All }
        )
        {
            BaseAddress = address,
        };

    /// <summary>Goes on with the same cookies at another process.</summary>
    public LintelClient At(Uri other)
    {
        var client = new LintelClient(other);
        foreach (Cookie cookie in _cookies.GetAllCookies())
            client._cookies.Add(other, new Cookie(cookie.Name, cookie.Value, "/", other.Host));
        return client;
    }

    public async Task SignInAsync(string email, string password = "heron-wharf-2026")
    {
        await TokenAsync("/signin");
        var answer = await Http.PostAsync(
            "/signin",
            new FormUrlEncodedContent(
                new Dictionary<string, string>
                {
                    ["Email"] = email,
                    ["Password"] = password,
                    ["__RequestVerificationToken"] = _token,
                }
            )
        );
        Assert.Equal("/", answer.RequestMessage!.RequestUri!.AbsolutePath);
    }

    public async Task<string> GetAsync(string path) =>
        await (await Http.GetAsync(path)).EnsureSuccessStatusCode().Content.ReadAsStringAsync();

    /// <summary>Where an address leads to, without going there; null where it answers itself.</summary>
    public async Task<Uri?> LocationAsync(string path)
    {
        using var stays = new HttpClient(
            new HttpClientHandler { CookieContainer = _cookies, AllowAutoRedirect = false }
        )
        {
            BaseAddress = address,
        };
        return (await stays.GetAsync(path)).Headers.Location;
    }

    public async Task TokenAsync(string path) =>
        _token = WebUtility.HtmlDecode(
            TokenPattern().Match(await (await Http.GetAsync(path)).Content.ReadAsStringAsync()).Groups[1].Value
        );

    public async Task<HttpResponseMessage> PostAsync(string path, HttpContent? content = null)
    {
        var request = new HttpRequestMessage(HttpMethod.Post, path) { Content = content };
        request.Headers.Add("RequestVerificationToken", _token);
        return await Http.SendAsync(request);
    }

    /// <summary>Fills the form of a page in and sends it.</summary>
    /// <param name="page">The page that has the form.</param>
    /// <param name="handler">The handler; empty for the page's own.</param>
    /// <param name="values">The fields.</param>
    public async Task<HttpResponseMessage> FormAsync(
        string page,
        string handler,
        params (string Name, string Value)[] values
    )
    {
        await TokenAsync(page);
        var fields = values
            .Select(v => KeyValuePair.Create(v.Name, v.Value))
            .Append(KeyValuePair.Create("__RequestVerificationToken", _token));
        string to =
            handler.Length == 0
                ? page
                : page + (page.Contains('?', StringComparison.Ordinal) ? "&" : "?") + "handler=" + handler;
        return await Http.PostAsync(to, new FormUrlEncodedContent(fields));
    }

    /// <summary>The identity of a party as the receive page offers it.</summary>
    public async Task<string> PartyAsync(string code)
    {
        await TokenAsync("/jobs/HW/receive");
        return Regex
            .Match(await GetAsync("/jobs/HW/receive"), $"<option value=\"([0-9a-f-]+)\">{code} ")
            .Groups[1]
            .Value;
    }

    /// <summary>Sends a file in pieces.</summary>
    /// <param name="party">The party's identity.</param>
    /// <param name="source">The source's name.</param>
    /// <param name="fileName">The file's name.</param>
    /// <param name="bytes">Its bytes.</param>
    /// <param name="each">How each request is sent; once when null.</param>
    /// <returns>The delivery's identity.</returns>
    public async Task<string> DeliverAsync(
        string party,
        string source,
        string fileName,
        byte[] bytes,
        Func<Func<Task<HttpResponseMessage>>, Task<HttpResponseMessage>>? each = null
    )
    {
        each ??= ask => ask();
        var begun = await each(() =>
            PostAsync(
                $"/jobs/HW/receive?handler=Begin&party={party}&source={Uri.EscapeDataString(source)}&fileName={Uri.EscapeDataString(fileName)}&length={bytes.Length}"
            )
        );
        if (!begun.IsSuccessStatusCode)
            throw new InvalidOperationException(await begun.Content.ReadAsStringAsync());
        string id = Regex.Match(await begun.Content.ReadAsStringAsync(), "[0-9a-f-]{36}").Value;
        for (int n = 0; n * Piece < bytes.Length; n++)
        {
            int number = n,
                length = Math.Min(Piece, bytes.Length - (n * Piece));
            (
                await each(() =>
                    PostAsync(
                        $"/jobs/HW/receive?handler=Piece&id={id}&number={number}",
                        new ByteArrayContent(bytes, number * Piece, length)
                    )
                )
            ).EnsureSuccessStatusCode();
        }

        (await each(() => PostAsync($"/jobs/HW/receive?handler=Complete&id={id}"))).EnsureSuccessStatusCode();
        return id;
    }

    /// <summary>The state of a delivery and its row in the list.</summary>
    public async Task<(string State, string Row)> StateAsync(string id)
    {
        var row = Regex.Match(
            await GetAsync("/jobs/HW/receive?handler=List"),
            $"<tr data-delivery=\"{id}\" data-state=\"(\\w+)\">(.*?)</tr>",
            RegexOptions.Singleline
        );
        return (row.Groups[1].Value, WebUtility.HtmlDecode(row.Groups[2].Value));
    }

    /// <summary>Waits until a delivery is in one of some states.</summary>
    public async Task<(string State, string Row)> WaitAsync(string id, int seconds, params string[] states)
    {
        for (int i = 0; i < seconds * 10; i++)
        {
            var now = await StateAsync(id);
            if (states.Contains(now.State))
                return now;
            await Task.Delay(100);
        }

        throw new TimeoutException($"Delivery {id} is {(await StateAsync(id)).State}.");
    }

    public void Dispose() => _http?.Dispose();

    [GeneratedRegex("name=\"__RequestVerificationToken\" type=\"hidden\" value=\"([^\"]+)\"")]
    private static partial Regex TokenPattern();
}
