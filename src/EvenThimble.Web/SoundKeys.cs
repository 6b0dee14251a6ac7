using System.Xml;
using System.Xml.Linq;
using Microsoft.AspNetCore.DataProtection.Repositories;

namespace EvenThimble.Web;

/// <summary>
/// Keeps the keys of the posts' tokens as files, and passes over one that cannot be read: it is put aside, and a new key is made. All that is lost is that pages opened before have to be
/// loaded again.
/// </summary>
public sealed class SoundKeys(string folder, ILogger<SoundKeys> log) : IXmlRepository
{
    /// <inheritdoc/>
    public IReadOnlyCollection<XElement> GetAllElements()
    {
        var keys = new List<XElement>();
        if (!Directory.Exists(folder)) return keys;
        foreach (var path in Directory.EnumerateFiles(folder, "*.xml"))
        {
            try
            {
                using var reader = XmlReader.Create(path, new() { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null });
                keys.Add(XElement.Load(reader));
            }
            catch (Exception e) when (e is XmlException or IOException or UnauthorizedAccessException)
            {
                log.LogWarning("The key {File} cannot be read and was put aside. Pages that were open have to be loaded again.", Path.GetFileName(path));
                PutAside(path);
            }
        }

        return keys;
    }

    /// <inheritdoc/>
    public void StoreElement(XElement element, string friendlyName)
    {
        try
        {
            Directory.CreateDirectory(folder);
            Core.Files.AtomicFile.Write(Path.Combine(folder, $"{Path.GetFileName(friendlyName)}.xml"), System.Text.Encoding.UTF8.GetBytes(element.ToString()));
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            log.LogWarning("A new key could not be kept; pages have to be loaded again after the next start. {Reason}", e.Message);
        }
    }

    private static void PutAside(string path)
    {
        try
        {
            File.Move(path, path + ".damaged", overwrite: true);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            // It is passed over again the next time.
        }
    }
}
