namespace SteadyLintel.Cad;

/// <summary>The section of classes.</summary>
internal static class DwgClasses
{
    private const int Entity = 0x1F2,
        Object = 0x1F3;

    /// <summary>Reads the classes of a drawing.</summary>
    public static void Read(Drawing drawing, byte[] section, CadText text)
    {
        var fields = DwgFrame.Open(section, DwgSections.ClassesStart, drawing, text, "classes");
        if (fields is null)
            return;
        bool counted = fields.Since(CadVersion.AC1018);
        if (counted)
        {
            fields.Short(0);
            fields.RawByte(0);
            fields.RawByte(0);
            fields.Bit(true);
        }

        while (fields.Data.Left > 40)
        {
            var item = new CadClass
            {
                Number = fields.Short(0),
                ProxyFlags = fields.Short(0),
                Application = fields.Text(3, ""),
                ClassName = fields.Text(2, ""),
                DxfName = fields.Text(1, ""),
                WasProxy = fields.Bit(false),
            };
            item.IsEntity = fields.Short(0) == Entity;
            if (counted)
            {
                item.Instances = fields.Long(0);
                for (int i = 0; i < 2; i++)
                    fields.Short(0);
                for (int i = 0; i < 2; i++)
                    fields.Long(0);
            }

            if (item.Number < DwgTypes.FirstClass)
                break;
            drawing.Classes.Add(item);
        }
    }

    /// <summary>The section.</summary>
    public static byte[] Write(IReadOnlyList<CadClass> classes, CadVersion version, CadText text)
    {
        var fields = new DwgWriteFields(version, text);
        bool counted = fields.Since(CadVersion.AC1018);
        if (counted)
        {
            fields.Short(classes.Count > 0 ? classes.Max(c => c.Number) : DwgTypes.FirstClass - 1);
            fields.RawByte(0);
            fields.RawByte(0);
            fields.Bit(true);
        }

        foreach (var item in classes)
        {
            fields.Short(item.Number);
            fields.Short(item.ProxyFlags);
            fields.Text(3, item.Application);
            fields.Text(2, item.ClassName);
            fields.Text(1, item.DxfName);
            fields.Bit(item.WasProxy);
            fields.Short(item.IsEntity ? Entity : Object);
            if (!counted)
                continue;
            fields.Long(item.Instances);
            for (int i = 0; i < 2; i++)
                fields.Short(0);
            for (int i = 0; i < 2; i++)
                fields.Long(0);
        }

        return DwgFrame.Close(fields, DwgSections.ClassesStart);
    }
}
