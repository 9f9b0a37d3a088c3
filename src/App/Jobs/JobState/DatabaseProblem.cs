using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace SteadyLintel.Jobs;

/// <summary>What the database says when it cannot do something, in words for people.</summary>
public static class DatabaseProblem
{
    /// <summary>Why what was asked for is refused; null where the person who asked can do nothing about it.</summary>
    public static RefusedException? Refusal(Exception e) =>
        e is DbUpdateConcurrencyException
            ? SomebodyElse
            : (e as PostgresException ?? e.InnerException as PostgresException)?.SqlState switch
            {
                PostgresErrorCodes.UniqueViolation or PostgresErrorCodes.ForeignKeyViolation => SomebodyElse,
                PostgresErrorCodes.CharacterNotInRepertoire or PostgresErrorCodes.UntranslatableCharacter =>
                    new RefusedException(
                        RefusalKind.Wrong,
                        "A value has a character that cannot be stored; type it again."
                    ),
                _ => null,
            };

    /// <summary>Whether it does not answer; Entity Framework puts the reason into exceptions of its own.</summary>
    public static bool IsAway(Exception? e)
    {
        for (; e is not null; e = e.InnerException)
            if (
                e
                is NpgsqlException { IsTransient: true }
                    or System.Net.Sockets.SocketException
                    or PostgresException
                    {
                        SqlState: PostgresErrorCodes.AdminShutdown or PostgresErrorCodes.CannotConnectNow
                    }
            )
                return true;
        return false;
    }

    private static RefusedException SomebodyElse =>
        new(
            RefusalKind.Conflict,
            "Somebody else changed the same at the same time. Load the page again and repeat what is missing."
        );
}
