using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Geometry;
using SteadyLintel.Ifc;
using SteadyLintel.Jobs;

namespace SteadyLintel.Web;

/// <summary>The demo's models in the job's frame, to find elements in and to take pictures of.</summary>
internal sealed class DemoScene
{
    private const int Width = 960,
        Height = 600;

    // In the order of the models: architecture, structure, services.
    private static readonly Colour[] Colours =
    [
        new(0x8F, 0xB9, 0xD6, 255),
        new(0xD9, 0x9A, 0x72, 255),
        new(0x7F, 0xB8, 0xA4, 255),
    ];

    private readonly List<(ModelSnapshot Model, Frame Frame, Colour Colour)> _models = [];

    // What one looks through from above.
    private readonly Lazy<IReadOnlyList<string>> _covers;

    /// <summary>Opens them.</summary>
    public DemoScene()
    {
        foreach (var (delivery, n) in HeronWharf.Models.Select((m, n) => (m, n)))
        {
            using var stream = new MemoryStream();
            delivery.Write(stream);
            _models.Add((ModelSnapshot.Open(stream.ToArray()), Frame.Identity, Colours[n]));
        }

        _covers = new Lazy<IReadOnlyList<string>>(() =>
            [
                .. _models
                    .SelectMany(m => m.Model.Elements)
                    .Where(e => e.Class is "IfcRoof" or "IfcCovering" or "IfcSlab" or "IfcPlate")
                    .Select(e => e.GlobalId),
            ]
        );
    }

    /// <summary>The first elements of a class on a storey of a model.</summary>
    /// <param name="model">0 architecture, 1 structure, 2 services.</param>
    /// <param name="type">The class.</param>
    /// <param name="storey">The storey's name.</param>
    /// <param name="count">How many.</param>
    public string[] Find(int model, string type, string storey, int count = 1)
    {
        var of = _models[model].Model;
        var here = of.Elements.Where(e => e.Class == type).ToList();
        var on = here.Where(e => of.StoreyName(e.Storey) == storey).ToList();
        return [.. (on.Count > 0 ? on : here).Take(count).Select(e => e.GlobalId)];
    }

    /// <summary>A view of some elements: from the south-east and above, cut over them.</summary>
    public ViewDocument Around(IReadOnlyList<string> elements, double distance = 5)
    {
        var box = Box.Empty;
        foreach (var (model, _, _) in _models)
            model.ForEachShape([.. model.Elements.Where(e => elements.Contains(e.GlobalId))], (_, shape) =>
            {
                if (shape is not null)
                    box = box.Add(shape.Bounds());
            });
        var at = box.IsEmpty ? new Vec3(24, 12, 5) : box.Centre;
        var eye = at + (new Vec3(0.62, -0.95, 0.75).Unit() * (distance + ((box.Max - box.Min).Length / 2)));
        return new ViewDocument
        {
            Eye = [eye.X, eye.Y, eye.Z],
            At = [at.X, at.Y, at.Z],
            Cut = [-20, (box.IsEmpty ? at.Z : box.Max.Z) + 0.6],
            Off = new ViewOff { Class = ["IfcSpace"] },
            Hidden = [.. _covers.Value.Where(e => !elements.Contains(e))],
            Picked = elements,
        };
    }

    /// <summary>The picture of a view.</summary>
    public byte[] Picture(ViewDocument view) => FilePictures.Png(ViewPicture.Of(view, _models, Width, Height));

    /// <summary>Width of the pictures by their height.</summary>
    public static double Aspect => (double)Width / Height;
}
