using System.Collections.Concurrent;
using System.Net;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Routing;
using Microsoft.AspNetCore.WebUtilities;

namespace SteadyLintel.StandIn;

/// <summary>How programs sign in at the stand-in: whoever comes is who they say (RFC 6749 and RFC 7636, as far as that goes).</summary>
internal sealed class StandInSignIn(string path)
{
    private readonly ConcurrentDictionary<string, (string Challenge, string Redirect, string Account)> _codes = new();
    private readonly ConcurrentDictionary<string, string> _tokens = new()
    {
        [TopicStandIn.Token] = TopicStandIn.Account,
    };
    private readonly ConcurrentDictionary<string, string> _renewals = new();

    /// <summary>Who a request is from; null for nobody.</summary>
    public string? Account(HttpRequest request) =>
        request.Headers.Authorization.ToString() is ['B' or 'b', .. var rest]
        && rest.Split(' ') is [_, var token]
        && _tokens.TryGetValue(token, out string? account)
            ? account
            : null;

    /// <summary>Ends every sign-in but that by the token everybody knows.</summary>
    public void EndAll()
    {
        _tokens.Clear();
        _renewals.Clear();
        _tokens[TopicStandIn.Token] = TopicStandIn.Account;
    }

    public void Map(RouteGroupBuilder group)
    {
        group.MapGet("/authorize", Ask);
        group.MapGet("/authorize/as", Grant);
        group.MapPost("/token", TokenAsync).DisableAntiforgery();
    }

    // A form would have to lead to another site, which pages here do not allow: each person is a link.
    private IResult Ask(HttpRequest request)
    {
        var page = new StringBuilder(
            "<!DOCTYPE html><html lang=en><title>Stand-in server for topics</title><h1>Stand-in server for topics</h1>"
                + "<p>Say who you are; nothing is checked here.</p><ul>"
        );
        foreach (string account in TopicStandIn.People)
        {
            string link = QueryHelpers.AddQueryString(
                $"{path}/authorize/as",
                request
                    .Query.SelectMany(q => q.Value.Select(v => KeyValuePair.Create(q.Key, v)))
                    .Append(KeyValuePair.Create("as", (string?)account))
            );
            page.Append($"<li><a href=\"{WebUtility.HtmlEncode(link)}\">{account}</a></li>");
        }

        return Results.Content(page.Append("</ul></html>").ToString(), "text/html");
    }

    private IResult Grant(HttpRequest request)
    {
        string code = Secret(),
            redirect = request.Query["redirect_uri"].ToString(),
            account = request.Query["as"].ToString();
        if (!TopicStandIn.People.Contains(account))
            return Results.NotFound();
        _codes[code] = (request.Query["code_challenge"].ToString(), redirect, account);
        return Results.Redirect(
            QueryHelpers.AddQueryString(
                redirect,
                new Dictionary<string, string?> { ["code"] = code, ["state"] = request.Query["state"].ToString() }
            )
        );
    }

    private async Task<IResult> TokenAsync(HttpRequest request)
    {
        var form = await request.ReadFormAsync();
        string? account = form["grant_type"].ToString() switch
        {
            "client_credentials" => form["client_secret"] == TopicStandIn.Secret ? TopicStandIn.Account : null,
            "refresh_token" => _renewals.TryRemove(form["refresh_token"].ToString(), out string? who) ? who : null,
            "authorization_code" => _codes.TryRemove(form["code"].ToString(), out var code)
            && code.Redirect == form["redirect_uri"]
            && code.Challenge == Challenge(form["code_verifier"].ToString())
                ? code.Account
                : null,
            _ => null,
        };
        if (account is null)
            return Results.Json(new { error = "invalid_grant" }, statusCode: 400);
        string token = Secret(),
            renewal = Secret();
        (_tokens[token], _renewals[renewal]) = (account, account);
        return Results.Json(
            new
            {
                access_token = token,
                token_type = "Bearer",
                expires_in = 3600,
                refresh_token = renewal,
            }
        );
    }

    private static string Secret() => WebEncoders.Base64UrlEncode(RandomNumberGenerator.GetBytes(32));

    private static string Challenge(string verifier) =>
        WebEncoders.Base64UrlEncode(SHA256.HashData(Encoding.ASCII.GetBytes(verifier)));
}
