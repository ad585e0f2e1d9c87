namespace GateSplit.Core.Splits;

/// <summary>What sort of inputs a bank has.</summary>
public enum BankKind
{
    /// <summary>What a plug-in gives back inside the recorder.</summary>
    PlugInReturns,

    /// <summary>Channels of a USB connection.</summary>
    Usb,

    /// <summary>Sockets of an interface, reached by cables.</summary>
    Analog,

    /// <summary>Ports that are joined one by one to those of another app.</summary>
    AppToApp,

    /// <summary>Internal buses on which groups of the recorder itself come out.</summary>
    StemBuses,

    /// <summary>Internal buses, fed by tracks.</summary>
    Buses,

    /// <summary>Inputs to which outputs of the recorder are led back, by software or by cable.</summary>
    Loopback,
}
