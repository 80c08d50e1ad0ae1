import { Dialog, Portal, Text } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { Action } from './Action';

interface Props {
  title: string;
  children: ReactNode;
  /** What opens it: a button. */
  trigger: ReactNode;
  confirm: string;
  /** The way out. */
  keep?: string;
  onConfirm(): void;
}

/** Asks once more before something that cannot be undone. */
export const ConfirmDialog = ({ title, children, trigger, confirm, keep = 'Keep it', onConfirm }: Props) => (
  <Dialog.Root role="alertdialog" placement="center">
    <Dialog.Trigger asChild>{trigger}</Dialog.Trigger>
    <Portal>
      <Dialog.Backdrop />
      <Dialog.Positioner padding="16px">
        <Dialog.Content background="page" color="ink" borderRadius="control" border="1px solid" borderColor="ink">
          <Dialog.Header>
            <Dialog.Title fontFamily="heading" fontWeight="500" fontSize="24px">
              {title}
            </Dialog.Title>
          </Dialog.Header>
          <Dialog.Body>
            <Text>{children}</Text>
          </Dialog.Body>
          <Dialog.Footer>
            <Dialog.ActionTrigger asChild>
              <Action quiet>{keep}</Action>
            </Dialog.ActionTrigger>
            <Dialog.ActionTrigger asChild>
              <Action onClick={onConfirm}>{confirm}</Action>
            </Dialog.ActionTrigger>
          </Dialog.Footer>
        </Dialog.Content>
      </Dialog.Positioner>
    </Portal>
  </Dialog.Root>
);
