namespace SteadyLintel.Store;

/// <summary>Work that goes on after the request that asked for it: a delivery being read, an order being run.</summary>
public interface IWork
{
    /// <summary>Identity.</summary>
    Guid Id { get; }

    /// <summary>The share of the present step that is done, 0 … 1.</summary>
    double Progress { get; }

    /// <summary>What is going on, or why it ended as it did.</summary>
    string Sentence { get; }

    /// <summary>Set to cancel it ; whoever works on it looks at it.</summary>
    bool CancelRequested { get; }

    /// <summary>Who works on it; null when nobody does.</summary>
    Guid? Worker { get; }

    /// <summary>When the worker last gave a sign of life.</summary>
    DateTime? Beat { get; }

    /// <summary>How often it was begun and could not be ended for a fault that may pass, such as a lost connection.</summary>
    int Attempts { get; }

    /// <summary>How often the process that worked on it came to an end with it.</summary>
    int Deaths { get; }
}
