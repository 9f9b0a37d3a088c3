namespace SteadyLintel.Tests;

/// <summary>The test run's PostgreSQL, started by <c>./test</c>.</summary>
internal static class TestDatabase
{
    /// <summary>A connection string to a new database of its own; the server makes it on first use.</summary>
    public static string New()
    {
        string server = Environment.GetEnvironmentVariable("LINTEL_TEST_SERVER")
            ?? throw new InvalidOperationException(
                "LINTEL_TEST_SERVER is not set; run the tests with ./test, or see there how to start the database."
            );
        return $"{server};Database=t{Guid.NewGuid():N};Maximum Pool Size=40";
    }
}
