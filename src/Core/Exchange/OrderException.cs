namespace SteadyLintel.Exchange;

/// <summary>An order cannot be carried out as it is; the message says what to change.</summary>
public class OrderException(string message) : Exception(message);
