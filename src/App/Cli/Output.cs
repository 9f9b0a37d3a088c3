using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using SteadyLintel.Cad;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Step;

namespace SteadyLintel.Cli;

/// <summary>Machine output and errors, the same for every command.</summary>
internal static class Output
{
    private static readonly JsonSerializerOptions Line = new(JsonSerializerDefaults.Web) { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };
    private static readonly JsonSerializerOptions Page = new(Line) { WriteIndented = true };

    /// <summary>An answer to which more can be added.</summary>
    public static JsonObject Object(object value) => JsonSerializer.SerializeToNode(value, Page)!.AsObject();

    public static void WritePage(object value) => Console.Out.WriteLine(JsonSerializer.Serialize(value, Page));

    public static void WriteLine(object value) => Console.Out.WriteLine(JsonSerializer.Serialize(value, Line));

    /// <summary>Runs a command; what strangers' files may cause becomes one sentence and an exit code.</summary>
    public static int Guard(Func<int> run)
    {
        try
        {
            return run();
        }
        catch (Exception e) when (e is DeliveryException or StepFormatException or CadFormatException or IOException or UnauthorizedAccessException)
        {
            Console.Error.WriteLine(e.Message);
            return ExitCodes.Unreadable;
        }
        catch (OrderException e)
        {
            Console.Error.WriteLine(e.Message);
            return ExitCodes.WrongArguments;
        }
    }

    /// <summary>A point as three numbers, rounded to a hundredth of a micrometre.</summary>
    public static double[] Numbers(Vec3 p) => [Math.Round(p.X, 8), Math.Round(p.Y, 8), Math.Round(p.Z, 8)];
}
