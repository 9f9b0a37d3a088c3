using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json;

namespace SteadyLintel.Jobs;

/// <summary>Asks another server by BCF API.</summary>
/// <param name="http">The way there.</param>
/// <param name="root">Where its API begins, without a slash at its end.</param>
/// <param name="token">The bearer token; null for what everybody may ask.</param>
internal sealed class BcfClient(HttpClient http, string root, string? token)
{
    private const int LongestReason = 300;

    /// <summary>The server's own time of its last answer.</summary>
    public DateTime? TheirTime { get; private set; }

    /// <summary>Gets something; null where it is not there, or the server has no such address.</summary>
    public async Task<T?> GetAsync<T>(string path, CancellationToken cancel)
        where T : class
    {
        using var answer = await SendAsync(HttpMethod.Get, path, null, cancel);
        return IsMissing(answer) ? null : await ReadAsync<T>(answer, cancel);
    }

    /// <summary>Gets bytes; null where they are not there.</summary>
    public async Task<byte[]?> BytesAsync(string path, CancellationToken cancel)
    {
        using var answer = await SendAsync(HttpMethod.Get, path, null, cancel);
        if (IsMissing(answer))
            return null;
        await CheckAsync(answer, cancel);
        return await answer.Content.ReadAsByteArrayAsync(cancel);
    }

    /// <summary>Sends something.</summary>
    /// <returns>What the server made of it; null where it says nothing.</returns>
    public async Task<T?> SendAsync<T>(HttpMethod method, string path, object? body, CancellationToken cancel)
        where T : class
    {
        using var answer = await SendAsync(
            method,
            path,
            body as HttpContent
                ?? (body is null ? null : JsonContent.Create(body, body.GetType(), null, BcfJson.Options)),
            cancel
        );
        await CheckAsync(answer, cancel);
        return answer.StatusCode == HttpStatusCode.NoContent ? null : await ReadAsync<T>(answer, cancel);
    }

    private async Task<HttpResponseMessage> SendAsync(
        HttpMethod method,
        string path,
        HttpContent? body,
        CancellationToken cancel
    )
    {
        using var request = new HttpRequestMessage(method, $"{root}/{path}") { Content = body };
        request.Headers.Accept.Add(new MediaTypeWithQualityHeaderValue("*/*"));
        if (token is not null)
            request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", token);
        try
        {
            var answer = await http.SendAsync(request, cancel);
            TheirTime = answer.Headers.Date?.UtcDateTime ?? TheirTime;
            return answer;
        }
        catch (Exception e)
            when (e is HttpRequestException or IOException
                || (e is OperationCanceledException && !cancel.IsCancellationRequested)
            )
        {
            if ((e.InnerException ?? e) is TopicServerException own)
                throw own;
            throw new TopicServerException(
                TopicServerFault.Away,
                $"{new Uri(root).Authority} does not answer ({(e is OperationCanceledException ? "it takes too long" : e.Message)})."
            );
        }
    }

    private static bool IsMissing(HttpResponseMessage answer) =>
        answer.StatusCode
            is HttpStatusCode.NotFound
                or HttpStatusCode.MethodNotAllowed
                or HttpStatusCode.NotImplemented;

    private static async Task<T?> ReadAsync<T>(HttpResponseMessage answer, CancellationToken cancel)
        where T : class
    {
        await CheckAsync(answer, cancel);
        try
        {
            return await answer.Content.ReadFromJsonAsync<T>(BcfJson.Options, cancel);
        }
        catch (Exception e) when (e is JsonException or NotSupportedException or InvalidOperationException)
        {
            throw new TopicServerException(
                TopicServerFault.Away,
                $"{answer.RequestMessage!.RequestUri!.Authority} does not answer as a BCF server does: {e.Message}"
            );
        }
    }

    private static async Task CheckAsync(HttpResponseMessage answer, CancellationToken cancel)
    {
        if (answer.IsSuccessStatusCode)
            return;
        int status = (int)answer.StatusCode;
        string host = answer.RequestMessage!.RequestUri!.Authority;
        if (answer.StatusCode == HttpStatusCode.Unauthorized)
            throw new TopicServerException(
                TopicServerFault.SignIn,
                $"{host} does not accept the sign-in any more.",
                status
            );
        if (status is >= 500 or 429 or 408 or (>= 300 and < 400))
            throw new TopicServerException(
                TopicServerFault.Away,
                $"{host} cannot answer now (status {status}).",
                status
            );
        string reason = await answer.Content.ReadAsStringAsync(cancel);
        throw new TopicServerException(TopicServerFault.Refused, Reason(reason, status), status);
    }

    // The standard's own word for it is a message.
    private static string Reason(string text, int status)
    {
        try
        {
            if (
                JsonDocument.Parse(text).RootElement is { ValueKind: JsonValueKind.Object } error
                && error.TryGetProperty("message", out var message)
                && message.ValueKind == JsonValueKind.String
            )
                return Store.StoredText.Clean(message.GetString()!, LongestReason);
        }
        catch (JsonException)
        {
            // A page of a proxy.
        }

        return $"status {status}";
    }
}
