using SteadyLintel.Cad;
using SteadyLintel.Geometry;

namespace SteadyLintel.Exchange;

/// <summary>Puts details into a drawing: each becomes one block, inserted wherever a step places it.</summary>
internal sealed class DetailPlacer(
    Drawing drawing,
    IReadOnlyDictionary<string, byte[]> details,
    CancellationToken cancel
)
{
    private readonly Dictionary<string, BlockRecord> _blocks = [];

    /// <summary>Places a detail.</summary>
    /// <returns>What could not come along, and what is to be asked about where nothing was placed.</returns>
    public (IReadOnlyList<CadFinding> Findings, string? Finding) Place(PreparationStep step)
    {
        IReadOnlyList<CadFinding> findings = [];
        if (!_blocks.TryGetValue(step.To!, out var block))
        {
            if (!details.TryGetValue(step.To!, out byte[]? bytes))
                return ([], $"There is no detail {step.To} in the library.");
            try
            {
                (block, findings) = ReferenceBinder.Insert(
                    drawing,
                    step.To!,
                    CadFile.Read(bytes, cancel).Drawing,
                    cancel
                );
            }
            catch (CadFormatException e)
            {
                return ([], $"The detail {step.To} cannot be read: {e.Message}");
            }

            _blocks[step.To!] = block;
        }

        double scale = step.Scale ?? 1;
        drawing.Add(
            new Insert
            {
                Block = block.Handle,
                Location = new Vec3(step.At![0], step.At[1], 0),
                Scale = new Vec3(scale, scale, scale),
                Rotation = (step.Degrees ?? 0) * Math.PI / 180,
            }
        );
        return (findings, null);
    }
}
