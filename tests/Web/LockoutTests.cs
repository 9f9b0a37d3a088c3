using System.Net;

namespace SteadyLintel.Tests;

public class LockoutTests
{
    [Fact]
    public async Task Wrong_passwords_lock_an_account_and_too_many_attempts_are_slowed()
    {
        using var server = await ServerProcess.StartAsync(TestDatabase.New(), true, ("SignIn__PerMinute", "10"));
        using var client = new LintelClient(server.Address);
        var answers = new List<(HttpStatusCode Status, string Page)>();
        for (int i = 0; i < 12; i++)
        {
            await client.TokenAsync("/signin");
            var answer = await client.PostAsync(
                "/signin",
                new FormUrlEncodedContent(
                    new Dictionary<string, string>
                    {
                        ["Email"] = "reader@heron.example",
                        ["Password"] = i == 8 ? "heron-wharf-2026" : "wrong",
                    }
                )
            );
            answers.Add((answer.StatusCode, await answer.Content.ReadAsStringAsync()));
        }

        Assert.Contains("not right", answers[0].Page);
        // The right password does not help once the account is locked.
        Assert.Contains("Too many attempts", answers[8].Page);
        Assert.Equal(HttpStatusCode.TooManyRequests, answers[^1].Status);
    }
}
