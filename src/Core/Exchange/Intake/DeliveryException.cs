namespace SteadyLintel.Exchange;

/// <summary>A delivery cannot be read; the message says why and what to ask for, in one sentence.</summary>
public sealed class DeliveryException(string message) : Exception(message);
