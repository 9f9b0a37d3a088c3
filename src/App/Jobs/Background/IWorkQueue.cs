namespace SteadyLintel.Jobs;

/// <summary>Takes work that goes on after the request that asked for it, on any process.</summary>
public interface IWorkQueue
{
    /// <summary>Has a delivery read, see <see cref="ReadDelivery"/>.</summary>
    void Read(Guid delivery);

    /// <summary>Has a transmittal made, see <see cref="RunOrder"/>.</summary>
    void Run(Guid transmittal);
}

/// <summary>Why something asked for is not done.</summary>
public enum RefusalKind
{
    /// <summary>What was sent makes no sense.</summary>
    Wrong,

    /// <summary>The person may not.</summary>
    Forbidden,

    /// <summary>There is no such thing, or it is not waiting for this.</summary>
    Unknown,

    /// <summary>It is in another state by now.</summary>
    Conflict,

    /// <summary>There is no room for it.</summary>
    Full,
}

/// <summary>Something asked for is not done; the message says why and what to do.</summary>
public class RefusedException(RefusalKind kind, string message) : Exception(message)
{
    /// <summary>Why.</summary>
    public RefusalKind Kind => kind;
}

/// <summary>Something is done only once the person has answered a question, the message.</summary>
public sealed class AskedException(string question) : RefusedException(RefusalKind.Conflict, question);
